"""The pedal bench: the chain of forces, the balance, the pedal pressed."""
