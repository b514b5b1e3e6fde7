"""Paths of V-bits and end mills, and the surface that they leave."""
