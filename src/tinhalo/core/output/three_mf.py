"""3MF (3D Manufacturing Format, core specification 1.3): solids with names and colours, one object each, in mm."""

from __future__ import annotations

import io
from collections.abc import Sequence
from xml.sax.saxutils import quoteattr

from tinhalo.core.output.archive import write_zip
from tinhalo.core.output.solids import Solid
from tinhalo.core.output.svg import xml_text

_TYPES = """<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">
<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>
<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/>
</Types>
"""
_RELATIONS = """<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">
<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/>
</Relationships>
"""
_CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"


def write(title: str, solids: Sequence[Solid]) -> bytes:
    """One package with all of these solids, where they are."""
    held = io.BytesIO()
    texts = {
        "[Content_Types].xml": _TYPES,
        "_rels/.rels": _RELATIONS,
        "3D/3dmodel.model": _model(title, solids),
    }
    write_zip(held, ((name, text.encode()) for name, text in texts.items()))
    return held.getvalue()


def _model(title: str, solids: Sequence[Solid]) -> str:
    bases = "".join(
        f"<base name={_quoted(one.title)} displaycolor={_quoted(one.colour.upper() + 'FF')}/>" for one in solids
    )
    objects = "".join(_object(number, one) for number, one in enumerate(solids))
    items = "".join(f'<item objectid="{number + 2}"/>' for number in range(len(solids)))
    return (
        f'<?xml version="1.0" encoding="UTF-8"?>\n<model unit="millimeter" xml:lang="en" xmlns="{_CORE}">\n'
        f'<metadata name="Title">{xml_text(title)}</metadata>\n<metadata name="Application">Tin Halo</metadata>\n'
        f'<resources><basematerials id="1">{bases}</basematerials>\n{objects}</resources>\n'
        f"<build>{items}</build>\n</model>\n"
    )


def _object(number: int, solid: Solid) -> str:
    points = "".join(f'<vertex x="{x:.6f}" y="{y:.6f}" z="{z:.6f}"/>' for x, y, z in solid.mesh.points.tolist())
    triangles = "".join(f'<triangle v1="{a}" v2="{b}" v3="{c}"/>' for a, b, c in solid.mesh.triangles.tolist())
    return (
        f'<object id="{number + 2}" type="model" name={_quoted(solid.title)} pid="1" pindex="{number}">'
        f"<mesh><vertices>{points}</vertices><triangles>{triangles}</triangles></mesh></object>\n"
    )


def _quoted(text: str) -> str:
    return quoteattr(xml_text(text, escaped=False))
