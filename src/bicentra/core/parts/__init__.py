"""What is measured and chosen: frozen records of hub, knuckle, rotor, caliper, bracket, and the shop's tables."""
