"""From words and a font to outlines."""
