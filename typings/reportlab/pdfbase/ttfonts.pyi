class TTFontFace:
    charToGlyph: dict[int, int]

class TTFont:
    face: TTFontFace
    def __init__(self, name: str, filename: str) -> None: ...
