"""Materials to choose from."""

from __future__ import annotations

from fastapi import APIRouter

from tinhalo.core.materials import MATERIALS, Material

router = APIRouter(prefix="/api", tags=["catalogue"])


@router.get("/materials")
def list_materials() -> list[Material]:
    """All materials, thin ones first."""
    return list(MATERIALS)
