"""From the foot to the road: pressure, clamp, torque, travel, balance. The numbers behind the pedal, and what they rest on."""
