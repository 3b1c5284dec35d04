"""The corner in space: meshes of its parts, a picture of them by NumPy alone, and their visible edges as lines."""
