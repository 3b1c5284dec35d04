"""Trial fit: from gaps read at the car to where the caliper sits, and to the shims that put it right."""
