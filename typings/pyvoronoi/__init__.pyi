# The part of pyvoronoi that is used here; the package ships no annotations.
class Vertex:
    X: float
    Y: float

class Edge:
    start: int
    end: int
    cell: int
    twin: int
    is_primary: bool

class Cell:
    site: int
    source_category: int

class Pyvoronoi:
    def __init__(self, scaling_factor: int) -> None: ...
    def AddSegment(self, segment: list[list[float]]) -> None: ...
    def Construct(self) -> None: ...
    def GetVertices(self) -> list[Vertex]: ...
    def GetEdges(self) -> list[Edge]: ...
    def GetCells(self) -> list[Cell]: ...
