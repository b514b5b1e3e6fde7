"""Areas with holes: overlays, offsets, opening and closing, rounded corners, sums, what lies near what."""
