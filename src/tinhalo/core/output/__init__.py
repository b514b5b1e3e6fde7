"""What leaves: one module per file format, and the cut pack."""
