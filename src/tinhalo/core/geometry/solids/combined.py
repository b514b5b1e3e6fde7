"""Solids united with, and taken away from, each other (manifold3d)."""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce
from typing import Any

import manifold3d
import numpy as np

from tinhalo.core.geometry.solids.mesh import Mesh


def united(meshes: Sequence[Mesh]) -> Mesh:
    """All of them as one: what touches face to face is joined."""
    return _mesh(reduce(lambda one, other: one + other, [_manifold(mesh) for mesh in meshes]))


def without(mesh: Mesh, taken: Sequence[Mesh]) -> Mesh:
    """What is left of a solid when others are taken away."""
    left = _manifold(mesh)
    for one in taken:
        left = left - _manifold(one)
    return _mesh(left)


def _manifold(mesh: Mesh) -> manifold3d.Manifold:
    """The library's own; raises ValueError where it finds the surface not closed."""
    points, triangles = np.ascontiguousarray(mesh.points), np.ascontiguousarray(mesh.triangles, np.uint64)
    made = manifold3d.Manifold(manifold3d.Mesh64(points, triangles))
    if made.status() != manifold3d.Error.NoError:
        raise ValueError(f"not a solid: {made.status()}")
    return made


def _mesh(solid: manifold3d.Manifold) -> Mesh:
    found: Any = solid.to_mesh64()
    return Mesh(np.array(found.vert_properties[:, :3], float), np.array(found.tri_verts, np.int64))
