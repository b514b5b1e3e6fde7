"""Tools of one's own: V-bits and end mills, saved for every design."""

from __future__ import annotations

from pydantic import TypeAdapter
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.tools import EndMill, Tool, VBit
from tinhalo.store.database import writing
from tinhalo.store.models import ToolRow
from tinhalo.store.readable import readable

_TOOL: TypeAdapter[VBit | EndMill] = TypeAdapter(Tool)


def read_tool(text: str) -> VBit | EndMill:
    """A tool as it is stored.

    Raises:
        ValueError: when it cannot be read.
    """
    return _TOOL.validate_json(text)


class OwnTools:
    """All tools that the maker saved, by name."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[VBit | EndMill]:
        """Every own tool, by name."""
        with Session(self._engine) as session:
            rows = session.scalars(select(ToolRow).order_by(ToolRow.name))
            return readable(rows, lambda row: read_tool(row.tool), lambda row: f"The own tool {row.name!r}")

    def put(self, tool: VBit | EndMill) -> None:
        """Save a tool, in place of the one with its name if there is one."""
        with writing(self._engine) as session:
            session.merge(ToolRow(name=tool.name, tool=tool.model_dump_json()))

    def remove(self, name: str) -> bool:
        """Forget a tool; whether it was there. Designs that use it keep their copy."""
        with writing(self._engine) as session:
            row = session.get(ToolRow, name)
            if row is not None:
                session.delete(row)
            return row is not None
