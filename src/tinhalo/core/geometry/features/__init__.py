"""Things that are added to a region: plates, tabs and holes, stitches, bridges, stencil bars."""
