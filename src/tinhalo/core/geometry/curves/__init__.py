"""Outlines made of Bézier segments: flattening, filling, fitting, uniting with the curves kept."""
