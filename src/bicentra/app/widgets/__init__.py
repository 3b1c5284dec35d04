"""Small widgets, one job each."""
