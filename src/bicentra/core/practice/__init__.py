"""The practice corner: a simulated corner with hidden faults, asked and worked on as a real one. The solver knows
nothing of it.
"""
