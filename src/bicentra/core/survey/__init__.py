"""From readings to the hub and the lugs of this corner, with uncertainty."""
