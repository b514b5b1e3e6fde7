"""Regions and outlines in millimetres, y up; angles in degrees counter-clockwise."""
