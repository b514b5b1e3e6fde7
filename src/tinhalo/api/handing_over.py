"""What the hand-over offers: file formats, and tables of processes of the maker's own."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Path
from pydantic import BaseModel

from tinhalo.api.workshop import Shop
from tinhalo.core.design.hand_over import PRESETS, Format, Table
from tinhalo.core.output.formats import FORMATS
from tinhalo.store.tables import OwnTable

router = APIRouter(prefix="/api", tags=["hand-over"])

Name = Annotated[str, Path(min_length=1, max_length=80)]


class FormatReply(BaseModel):
    """A file format: what files end with, what it is called, and what it is for."""

    id: Format
    ending: str
    title: str
    use: str


class TableReply(BaseModel):
    """How each process leaves, under a name."""

    name: str
    table: Table
    shipped: bool = False


@router.get("/formats")
def list_formats() -> list[FormatReply]:
    """All formats that files can be written in."""
    return [FormatReply(id=id, ending=one.ending, title=one.title, use=one.use) for id, one in FORMATS.items()]


@router.get("/tables")
def list_tables(shop: Shop) -> list[TableReply]:
    """Tables that come with the app, then the maker's own, by name."""
    shipped = [TableReply(name=name, table=table, shipped=True) for name, table in PRESETS.items()]
    return shipped + [TableReply(name=one.name, table=one.table) for one in shop.tables.list()]


@router.put("/tables/{name}")
def save_table(name: Name, table: Table, shop: Shop) -> TableReply:
    """Save a table under a name, new or changed."""
    shop.tables.put(OwnTable(name, table))
    return TableReply(name=name, table=table)


@router.delete("/tables/{name}", status_code=204)
def remove_table(name: str, shop: Shop) -> None:
    """Forget a saved table. Designs that use it keep it."""
    if not shop.tables.remove(name):
        raise HTTPException(404, "This table is not among yours: it may have been removed already.")
