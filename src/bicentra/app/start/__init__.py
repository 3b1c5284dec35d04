"""The start sheet, shown while no job is open."""
