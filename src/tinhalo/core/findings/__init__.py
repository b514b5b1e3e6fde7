"""What a maker should look at: checks, what pieces are called, and the mends offered."""
