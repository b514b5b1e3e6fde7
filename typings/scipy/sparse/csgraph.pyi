# The part of SciPy's graph routines that is used here.
from numpy import int32
from numpy.typing import NDArray
from scipy.sparse import coo_array

def connected_components(csgraph: coo_array, directed: bool = ...) -> tuple[int, NDArray[int32]]: ...
