"""The bracket bench: every family side by side, the chosen part drawn, the bolts in their stacks."""
