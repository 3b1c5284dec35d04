"""The adapter plate: its thickness and shims, its bolts, its outline, and the search over the clock."""
