"""Findings: what a maker should look at. One module per kind."""
