"""Art that is its own outline: made of other art, or by hand, and changed at its nodes."""
