from typing import BinaryIO

class ImageReader:
    def __init__(self, fileName: BinaryIO) -> None: ...
