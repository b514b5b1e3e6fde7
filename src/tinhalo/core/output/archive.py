"""Zip files that are the same for the same content."""

from __future__ import annotations

import zipfile
from collections.abc import Iterable
from pathlib import Path
from typing import IO


def write_zip(target: Path | IO[bytes], files: Iterable[tuple[str, bytes]]) -> None:
    """Write files, each with its name; they are taken one by one, so that not all are held at once."""
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files:
            # A fixed date: the same content gives the same bytes.
            info = zipfile.ZipInfo(name, (2000, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            archive.writestr(info, content)
