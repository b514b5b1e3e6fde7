"""Layers that lie beside the sheet that the job is laid on, or reach over its edge."""

from __future__ import annotations

from tinhalo.core.design.design import Sheet
from tinhalo.core.findings.finding import Finding, rounded
from tinhalo.core.findings.mends.mend import LaySheet, Mend, fitting
from tinhalo.core.findings.surveyed import Surveyed
from tinhalo.core.geometry.arrays import Box
from tinhalo.core.units import length

#: What misses the sheet by less than this (mm) lies on it.
_SLACK = 0.005
_SIDES = ("to the left", "at its foot", "to the right", "at its top")


def check_off_sheet(one: Surveyed) -> list[Finding]:
    """Tell how far a layer reaches over the edge of the sheet."""
    sheet, job, box, unit = one.design.sheet, one.job, one.region.bounds, one.design.unit
    if not (sheet and job and box):
        return []
    layer = one.layer
    x0, y0, x1, y1 = sheet.box
    over = (x0 - box[0], y0 - box[1], box[2] - x1, box[3] - y1)
    measure = max(over)
    if measure <= _SLACK:
        return []
    side = over.index(measure)
    middle = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
    at = ((box[0], middle[1]), (middle[0], box[1]), (box[2], middle[1]), (middle[0], box[3]))[side]
    sentence = f"“{layer.title}” reaches {length(measure, unit)} over the edge of the sheet {_SIDES[side]}."
    return [
        Finding(
            kind="off_sheet",
            severity="warning",
            layer=layer.id,
            sentence=sentence,
            at=rounded(at),
            outline=(((box[0], box[1]), (box[2], box[1]), (box[2], box[3]), (box[0], box[3])),),
            measure=round(measure, 3),
            limit=0,
            unit="mm",
            mends=(_mend(job, sheet),),
        )
    ]


def _mend(job: Box, sheet: Sheet) -> Mend:
    """The sheet laid where the job fits on it, the nearest way it does; or all made so small that it fits."""
    width, height = job[2] - job[0], job[3] - job[1]
    turned = sheet.model_copy(update={"width": sheet.height, "height": sheet.width})
    for title, one in (("Lay the sheet under it", sheet), ("Turn the sheet, and lay it under", turned)):
        if width <= one.width and height <= one.height:
            return Mend(title=title, changes=(LaySheet(sheet=_under(one, job)),))
    factor = fitting(sheet.width / width, sheet.height / height)
    smaller = (job[0] * factor, job[1] * factor, job[2] * factor, job[3] * factor)
    return Mend.smaller(factor, LaySheet(sheet=_under(sheet, smaller)))


def _under(sheet: Sheet, job: Box) -> Sheet:
    """The sheet moved no further than it takes until the job lies on it."""
    x = min(max(sheet.x, job[2] - sheet.width), job[0])
    y = min(max(sheet.y, job[3] - sheet.height), job[1])
    return sheet.model_copy(update={"x": x, "y": y})
