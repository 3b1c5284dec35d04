"""The trial fit bench: the slot with its gaps, the shims, the present move, the log of trials."""
