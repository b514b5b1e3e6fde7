"""Binary STL: 80 bytes of text, a count, and for each triangle its normal and three corners as 32-bit floats, in mm."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from tinhalo.core.geometry.solids.mesh import Mesh
from tinhalo.core.output.solids import Solid

_RECORD = np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")])


def write(title: str, solids: Sequence[Solid]) -> bytes:
    """One file with all of these solids."""
    mesh = Mesh.joined([one.mesh.single() for one in solids])
    corners = mesh.points[mesh.triangles]
    normals = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    records = np.zeros(len(corners), _RECORD)
    records["normal"] = normals / np.maximum(np.linalg.norm(normals, axis=1), 1e-30)[:, None]
    records["corners"] = corners
    # Readers take a file that begins with "solid" for one of text.
    head = re.sub(r"[^ -~]", "_", f"Tin Halo, mm: {title}").encode()[:80].ljust(80)
    return head + np.uint32(len(records)).tobytes() + records.tobytes()
