"""Shapes and what lies between them: outlines of lines and arcs, hulls, rings about the axle, prisms between two heights."""
