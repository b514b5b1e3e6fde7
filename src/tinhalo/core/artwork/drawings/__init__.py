"""Drawings from files: open drawing formats read into areas with true curves, vetted before they are believed."""
