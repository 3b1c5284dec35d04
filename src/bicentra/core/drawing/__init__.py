"""Neutral drawings: made once from the solution, rendered by the screen, PDF, SVG and DXF alike."""
