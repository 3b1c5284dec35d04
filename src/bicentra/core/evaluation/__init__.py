"""The answer for one job: the bracket made and judged, its remedies tried, every finding in order of harm."""
