"""Search through every set of parts: which rotor, caliper, clock, plate behind the rotor and side go together."""
