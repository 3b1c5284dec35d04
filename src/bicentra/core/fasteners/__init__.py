"""Bolts in their stack: grip, engagement, protrusion, length from the stock list."""
