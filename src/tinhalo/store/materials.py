"""Materials of the maker's own."""

from __future__ import annotations

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.design.reading import in_range
from tinhalo.core.materials import Material
from tinhalo.store.database import writing
from tinhalo.store.models import MaterialRow
from tinhalo.store.readable import readable


class OwnMaterials:
    """All materials that the maker saved, for every design."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[Material]:
        """Every own material, the last changed first."""
        with Session(self._engine) as session:
            rows = session.scalars(select(MaterialRow).order_by(MaterialRow.changed.desc(), MaterialRow.id))
            return readable(rows, _read, lambda row: f"The own material {row.id!r}")

    def put(self, material: Material) -> None:
        """Save a material, in place of the one with its id if there is one."""
        with writing(self._engine) as session:
            session.merge(MaterialRow(id=material.id, material=material.model_dump_json()))

    def remove(self, id: str) -> bool:
        """Forget a material; whether it was there. Designs that use it keep their copy."""
        with writing(self._engine) as session:
            row = session.get(MaterialRow, id)
            if row is not None:
                session.delete(row)
            return row is not None


def _read(row: MaterialRow) -> Material:
    return in_range(Material, row.material)
