# The part of ezdxf that is used here.
from collections.abc import Iterable, Sequence
from typing import Any, TextIO

from ezdxf import path as path
from ezdxf import recover as recover
from ezdxf import units as units

class Layer:
    rgb: tuple[int, int, int] | None
    color: int
    dxf: Any

class Layers:
    def add(self, name: str) -> Layer: ...
    def has_entry(self, name: str) -> bool: ...
    def get(self, name: str) -> Any: ...
    def __iter__(self) -> Any: ...

class DXFError(Exception): ...

class Spline:
    control_points: Iterable[tuple[float, float, float]]
    knots: Iterable[float]
    dxf: Any

class Modelspace:
    def __getattr__(self, name: str) -> Any: ...
    def add_lwpolyline(
        self,
        points: Sequence[tuple[float, float, float]],
        format: str = ...,
        *,
        close: bool = ...,
        dxfattribs: dict[str, str] = ...,
    ) -> object: ...
    def add_spline(self, *, degree: int = ..., dxfattribs: dict[str, str] = ...) -> Spline: ...
    def add_polyline2d(
        self, points: Sequence[tuple[float, float]], *, close: bool = ..., dxfattribs: dict[str, str] = ...
    ) -> object: ...
    def __iter__(self) -> Any: ...

class Drawing:
    units: int
    dxfversion: str
    output_encoding: str
    header: dict[str, Any]
    layers: Layers
    def modelspace(self) -> Modelspace: ...
    def write(self, stream: TextIO) -> None: ...

def new(dxfversion: str = ..., setup: bool = ..., units: int = ...) -> Drawing: ...
def read(stream: TextIO) -> Drawing: ...
