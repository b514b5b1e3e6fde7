"""What layers are made from: a union of kinds of art behind one small protocol."""
