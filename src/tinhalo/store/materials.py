"""Materials of the maker's own."""

from __future__ import annotations

import logging

from pydantic import ValidationError
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from tinhalo.core.design.reading import in_range
from tinhalo.core.materials import Material
from tinhalo.store.database import writing
from tinhalo.store.models import MaterialRow


class OwnMaterials:
    """All materials that the maker saved, for every design."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def list(self) -> list[Material]:
        """Every own material, the last changed first."""
        with Session(self._engine) as session:
            rows = session.scalars(select(MaterialRow).order_by(MaterialRow.changed.desc(), MaterialRow.id))
            return [one for row in rows if (one := _read(row)) is not None]

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


def _read(row: MaterialRow) -> Material | None:
    """The material of a row; None, told on the console, where it cannot be read: one bad row must not hide the rest."""
    try:
        return in_range(Material, row.material)
    except ValidationError:
        logging.getLogger(__name__).warning("The own material %r cannot be read and is left out.", row.id)
        return None
