"""How wide strokes and gaps are (the medial axis), and making them wider."""
