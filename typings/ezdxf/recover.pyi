from typing import Any, BinaryIO

from ezdxf import Drawing

def read(stream: BinaryIO) -> tuple[Drawing, Any]: ...
