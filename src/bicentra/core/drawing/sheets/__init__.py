"""Drawings that are printed or cut by, and what stands on them."""
