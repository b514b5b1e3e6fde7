# The part of SciPy's sparse arrays that is used here.
from typing import Any

from numpy.typing import NDArray

class coo_array:
    def __init__(
        self, given: tuple[NDArray[Any], tuple[NDArray[Any], NDArray[Any]]], shape: tuple[int, int]
    ) -> None: ...
