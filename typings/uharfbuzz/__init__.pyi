# The part of uharfbuzz that is used here; the package ships no annotations.
from typing import Any

class Face:
    def __init__(self, data: bytes, index: int = ...) -> None: ...
    glyph_count: int
    upem: int

class Font:
    def __init__(self, face: Face) -> None: ...
    def set_variations(self, variations: dict[str, float]) -> None: ...
    def draw_glyph_with_pen(self, gid: int, pen: Any) -> None: ...

class GlyphInfo:
    codepoint: int
    cluster: int

class GlyphPosition:
    x_advance: int
    x_offset: int
    y_offset: int

class Buffer:
    glyph_infos: list[GlyphInfo] | None
    glyph_positions: list[GlyphPosition] | None
    def add_codepoints(self, codepoints: list[int]) -> None: ...
    def guess_segment_properties(self) -> None: ...

def shape(
    font: Font, buffer: Buffer, features: dict[str, list[tuple[int, int, int]]] | dict[str, bool] | None = ...
) -> None: ...
