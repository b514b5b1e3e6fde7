"""What leaves: a flattened region's curves found again, and edges that one cut serves."""
