"""Caliper on rotor: where everything comes to lie, and what is right or wrong about it."""
