"""Lists of names: read from tables, made into one design a row, worked through by several processes."""
