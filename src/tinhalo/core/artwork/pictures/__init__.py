"""Pictures traced into outlines with true curves."""
