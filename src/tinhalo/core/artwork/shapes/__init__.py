"""Shapes: hearts, tags, arches and the like, drawn by us as true curves to an exact width and height."""
