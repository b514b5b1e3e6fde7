"""What is told when art cannot be drawn."""

from __future__ import annotations


class ArtError(ValueError):
    """Art cannot be drawn; the message is a sentence for the maker."""
