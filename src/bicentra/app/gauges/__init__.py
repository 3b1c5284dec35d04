"""A gauge at the window: connected, watched, let go; the benches that take readings share it."""
