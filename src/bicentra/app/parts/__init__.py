"""The parts bench: old and new side by side, and the search for the set that fits."""
