"""Fonts and materials to choose from."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException
from fastapi.responses import FileResponse
from pydantic import BaseModel

from tinhalo.core.lettering.shipped import shipped_fonts
from tinhalo.core.materials import MATERIALS, Material

router = APIRouter(prefix="/api", tags=["catalogue"])


class FontReply(BaseModel):
    """A font to choose."""

    id: str
    family: str
    style: str
    kind: str


@router.get("/fonts")
def list_fonts() -> list[FontReply]:
    """All fonts, in the catalogue's order."""
    return [FontReply(id=f.id, family=f.family, style=f.style, kind=f.kind) for f in shipped_fonts()]


@router.get("/fonts/{font}/file", response_class=FileResponse)
def font_file(font: str) -> FileResponse:
    """The font file, to show its name in its own letters."""
    for f in shipped_fonts():
        if f.id == font:
            return FileResponse(f.path, media_type="font/ttf", headers={"Cache-Control": "max-age=86400"})
    raise HTTPException(404, "There is no such font.")


@router.get("/materials")
def list_materials() -> list[Material]:
    """All materials, thin ones first."""
    return list(MATERIALS)
