"""A closed surface of triangles."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from tinhalo.core.geometry.arrays import Floats

Triangles = NDArray[np.int64]


@dataclass(frozen=True)
class Mesh:
    """Triangles that go counter-clockwise round what is inside, seen from outside.

    Attributes:
        points: shape (n, 3), in mm, z up.
        triangles: shape (m, 3), indices of points.
    """

    points: Floats
    triangles: Triangles

    @staticmethod
    def empty() -> Mesh:
        """Nothing."""
        return Mesh(np.zeros((0, 3)), np.zeros((0, 3), np.int64))

    @staticmethod
    def joined(meshes: Sequence[Mesh]) -> Mesh:
        """Several side by side."""
        if not meshes:
            return Mesh.empty()
        before = np.cumsum([0, *(len(one.points) for one in meshes[:-1])])
        triangles = [one.triangles + first for one, first in zip(meshes, before, strict=True)]
        return Mesh(np.concatenate([one.points for one in meshes]), np.concatenate(triangles))

    @property
    def volume(self) -> float:
        """In mm³: the sum of the tetrahedra of all triangles with one point (divergence theorem)."""
        if not len(self.triangles):
            return 0.0
        a, b, c = (self.points[self.triangles[:, k]] - self.points[0] for k in range(3))
        return float(np.einsum("ij,ij->", a, np.cross(b, c)) / 6)

    @property
    def bounds(self) -> tuple[Floats, Floats]:
        """Its lowest and highest coordinates, shape (3,) each; it must have points."""
        return self.points.min(axis=0), self.points.max(axis=0)

    @property
    def is_closed(self) -> bool:
        """Whether every edge is shared by exactly two triangles that run along it in opposite directions."""
        edges = self.triangles[:, [0, 1, 1, 2, 2, 0]].reshape(-1, 2)
        there = np.unique(edges, axis=0)
        back = np.unique(edges[:, ::-1], axis=0)
        return len(there) == len(edges) and np.array_equal(there, back)

    @property
    def nbytes(self) -> int:
        """Memory held by the arrays, in bytes."""
        return self.points.nbytes + self.triangles.nbytes

    def single(self) -> Mesh:
        """As 32-bit floats hold it: points that fall together are one, and triangles that vanish by it are gone."""
        points, which = np.unique(self.points.astype(np.float32), axis=0, return_inverse=True)
        triangles = which.ravel()[self.triangles]
        a, b, c = triangles.T
        return Mesh(points.astype(float), triangles[(a != b) & (b != c) & (c != a)])
