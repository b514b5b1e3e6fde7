"""How far things can move: until they touch, until they cut no slivers, until they lie on what is below."""
