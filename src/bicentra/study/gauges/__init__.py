"""Gauges that send readings, real and simulated."""
