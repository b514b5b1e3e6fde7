"""What is told when a drawing file cannot be used."""

from __future__ import annotations

from tinhalo.core.artwork.error import ArtError


class DrawingError(ArtError):
    """A drawing file cannot be used; the message ends a sentence that begins with its name."""
