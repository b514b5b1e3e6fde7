"""What every part of the design document is made of: strict models, fields with units, anchors, placing, the graph."""
