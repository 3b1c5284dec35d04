"""Panels of figures: what was measured and chosen, part by part."""
