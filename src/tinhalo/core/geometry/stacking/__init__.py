"""One region over another: what it lies on, reaching under it, bleeding over it."""
