"""What the look in the round shows: every layer as a mesh of its own, packed for a browser."""

from __future__ import annotations

import json
from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from tinhalo.core.engine.built import Build, BuiltLayer
from tinhalo.core.geometry.solids.mesh import Mesh
from tinhalo.core.geometry.solids.raised import flat, raised
from tinhalo.core.output.marked_area import marked_area
from tinhalo.core.runtime.cancellation import checkpoint
from tinhalo.core.runtime.memo import Memo, digest

#: Edges are broken by this much, in mm, or by a share of the thickness: for the light only.
_BROKEN, _SHARE = 0.25, 0.12
#: The width at which lines that are scored are seen, in mm.
_LINE = 0.24


@dataclass(frozen=True)
class Shown:
    """A layer's mesh, from its own underside at height 0.

    Attributes:
        key: of its content: equal keys mean equal meshes.
        mesh: closed of what is cut; of what is marked its face alone.
    """

    key: str
    mesh: Mesh

    @property
    def nbytes(self) -> int:
        """Memory held by it, in bytes."""
        return self.mesh.nbytes + 200


def shown(built: BuiltLayer, thickness: float, memo: Memo) -> Shown:
    """The mesh of a layer; kept by its content."""
    process = built.layer.process
    key = digest("in the round", built.key, process if thickness == 0 else "cut", f"{thickness:.6f}")
    return memo.get(key, Shown, lambda: Shown(key, _mesh(built, thickness)))


def _mesh(built: BuiltLayer, thickness: float) -> Mesh:
    checkpoint()
    if thickness == 0:
        return flat(marked_area(built, _LINE, 2), 0)
    area = built.region.area
    broken = min(_BROKEN, _SHARE * thickness)
    return Mesh.empty() if area.is_empty else raised(area, 0, thickness, "chamfer", broken)


def packed(build: Build, memo: Memo, have: Collection[str]) -> bytes:
    """All layers that leave, from the top; meshes whose keys the browser has are left out.

    The length of a JSON text as a 32-bit number, that text (padded to four bytes), then for each mesh its points as
    32-bit floats and its corners as 32-bit numbers, all little-endian. The text lists the layers: id, key, bottom and
    thickness in mm, and how many points and triangles of it come.
    """
    head: list[dict[str, object]] = []
    parts: list[bytes] = []
    built = {one.layer.id: one for one in build.leaving()}
    for level in build.stack.levels:
        one = shown(built[level.layer.id], level.thickness, memo)
        told: dict[str, object] = {"id": level.layer.id, "key": one.key}
        told |= {"bottom": round(level.bottom, 6), "thickness": round(level.thickness, 6)}
        sent = one.key not in have
        told |= {"points": len(one.mesh.points) if sent else 0, "triangles": len(one.mesh.triangles) if sent else 0}
        head.append(told | {"sent": sent})
        if sent:
            parts += [one.mesh.points.astype("<f4").tobytes(), one.mesh.triangles.astype("<u4").tobytes()]
    text = json.dumps({"layers": head, "height": round(build.stack.height, 6)}).encode()
    text += b" " * (-len(text) % 4)
    return b"".join([np.uint32(len(text)).tobytes(), text, *parts])
