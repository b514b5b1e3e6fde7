from collections.abc import Iterator
from typing import Any

class Path:
    def flattening(self, distance: float) -> Iterator[Any]: ...

def make_path(entity: Any) -> Path: ...
