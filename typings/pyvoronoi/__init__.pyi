# The part of pyvoronoi that is used here; the package ships no annotations.
class Vertex:
    X: float
    Y: float

class Edge:
    start: int
    end: int
    is_primary: bool

class Cell:
    site: int
    source_category: int
    edges: list[int]
    vertices: list[int]

class Pyvoronoi:
    def __init__(self, scaling_factor: int) -> None: ...
    def AddSegment(self, segment: list[list[float]]) -> None: ...
    def Construct(self) -> None: ...
    def GetVertices(self) -> list[Vertex]: ...
    def CountEdges(self) -> int: ...
    def GetEdge(self, index: int) -> Edge: ...
    def GetCells(self) -> list[Cell]: ...
