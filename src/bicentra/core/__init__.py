"""The computation: no files, no clock, no screen. Lengths in mm, angles in degrees at the edges and radians inside."""
