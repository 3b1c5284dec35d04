"""Every pair that can meet: over the clock angle, a turn of the wheel, float, removal, play, heat."""
