"""Materials to choose from: those that come with the app, and the maker's own."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException

from tinhalo.api.workshop import Shop
from tinhalo.core.document.base import Identifier
from tinhalo.core.materials import MATERIALS, Material, find_material, is_shipped, unknown_material

router = APIRouter(prefix="/api/materials", tags=["catalogue"])


class MaterialReply(Material):
    """A material; ``own`` ones can be changed and removed."""

    own: bool


@router.get("")
def list_materials(shop: Shop) -> list[MaterialReply]:
    """The maker's own materials, the last changed first; then those that come with the app, thin ones first."""
    own, shipped = shop.materials.list(), MATERIALS
    return [_reply(one, own=True) for one in own] + [_reply(one, own=False) for one in shipped]


@router.get("/{id}")
def get_material(id: Identifier, shop: Shop) -> MaterialReply:
    """The material with that id; where there is none, what layers made of it count as."""
    own = next((one for one in shop.materials.list() if one.id == id), None)
    return _reply(own or find_material(id) or unknown_material(id), own=own is not None)


@router.put("/{id}")
def save_material(id: Identifier, material: Material, shop: Shop) -> MaterialReply:
    """Save an own material, new or changed."""
    if is_shipped(id):
        raise HTTPException(409, "This material comes with the app and stays as it is: save yours under another name.")
    kept = material.model_copy(update={"id": id})
    shop.materials.put(kept)
    return _reply(kept, own=True)


@router.delete("/{id}", status_code=204)
def remove_material(id: str, shop: Shop) -> None:
    """Take an own material out of the list. Designs that use it keep it."""
    if not shop.materials.remove(id):
        raise HTTPException(404, "This material is not in your list: it may have been removed already.")


def _reply(material: Material, *, own: bool) -> MaterialReply:
    return MaterialReply.model_validate(material.model_dump() | {"own": own})
