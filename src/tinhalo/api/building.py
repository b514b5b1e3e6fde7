"""Build a design as it stands in the browser."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from tinhalo.api.workshop import Shop
from tinhalo.core.build import Build, BuiltLayer
from tinhalo.core.checks.finding import Finding
from tinhalo.core.design import Design
from tinhalo.core.output import svg_path

router = APIRouter(prefix="/api", tags=["build"])

Bounds = tuple[float, float, float, float]


class BuildRequest(BaseModel):
    """A document, how exactly it is wanted, and the keys of outlines the browser already holds."""

    document: Design
    exact: bool = False
    have: list[str] = []


class LayerReply(BaseModel):
    """One layer: ``path`` is SVG path data in mm with y down, left out when the browser holds ``key``."""

    id: str
    key: str
    path: str | None
    area_mm2: float
    cut_length_mm: float
    pieces: int
    holes: int
    bounds_mm: Bounds | None


class BuildReply(BaseModel):
    """The layers in the document's order, the size of everything that leaves (y up), and all findings."""

    layers: list[LayerReply]
    bounds_mm: Bounds | None
    findings: list[Finding]


@router.post("/build")
def build_design(request: BuildRequest, shop: Shop) -> BuildReply:
    """Outlines, measures and findings of a document."""
    return _reply(shop.build(request.document, exact=request.exact), set(request.have))


def _reply(built: Build, have: set[str]) -> BuildReply:
    return BuildReply(
        layers=[_layer(b, have) for b in built.layers],
        bounds_mm=built.bounds,
        findings=list(built.findings),
    )


def _layer(built: BuiltLayer, have: set[str]) -> LayerReply:
    measures = built.measures
    path = None
    if built.key not in have:
        path = svg_path.curves(built.cut.outline.contours()) if built.cut else svg_path.polygons(built.region)
    return LayerReply(
        id=built.layer.id,
        key=built.key,
        path=path,
        area_mm2=measures.area,
        cut_length_mm=measures.cut_length,
        pieces=measures.pieces,
        holes=measures.holes,
        bounds_mm=measures.bounds,
    )
