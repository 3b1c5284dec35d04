"""The survey bench: the hub face with every reading on it, faces, runout and parts beside it."""
