"""Tables of one's own: how each process leaves, saved under a name for every design."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.design.hand_over import Table
from tinhalo.store.database import writing
from tinhalo.store.models import TableRow
from tinhalo.store.readable import readable


@dataclass(frozen=True)
class OwnTable:
    """A table that the maker saved, and what it is called."""

    name: str
    table: Table


class OwnTables:
    """All tables that the maker saved."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[OwnTable]:
        """Every own table, by name."""
        with Session(self._engine) as session:
            rows = session.scalars(select(TableRow).order_by(TableRow.name))
            return readable(rows, _read, lambda row: f"The own table {row.name!r}")

    def put(self, own: OwnTable) -> None:
        """Save a table, in place of the one with its name if there is one."""
        with writing(self._engine) as session:
            session.merge(TableRow(name=own.name, table=own.table.model_dump_json()))

    def remove(self, name: str) -> bool:
        """Forget a table; whether it was there. Designs that use it keep their copy."""
        with writing(self._engine) as session:
            row = session.get(TableRow, name)
            if row is not None:
                session.delete(row)
            return row is not None


def _read(row: TableRow) -> OwnTable:
    return OwnTable(row.name, Table.model_validate_json(row.table))
