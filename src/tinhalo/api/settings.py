"""What whoever runs a server may set: who uses it over a network, and how long it waits.

It imports nothing of the app: a command that is refused says so before all of that is read in.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from tinhalo.store.password import Password


@dataclass(frozen=True)
class NetworkAccess:
    """How others on a network use the app.

    Attributes:
        names: what this machine is called there; requests for other names are refused.
        password: what lets them in.
        tls: whether a proxy in front of it speaks TLS: cookies go over nothing else then.
    """

    names: Sequence[str]
    password: Password
    tls: bool = False


@dataclass(frozen=True)
class Waits:
    """How long the server waits, in seconds.

    Attributes:
        head: from a connection, or a request's first byte, to the end of its headers.
        database: for another program that holds the database.
        nesting: how long a layout of each sheet is searched for.
    """

    head: float = 10.0
    database: float = 10.0
    nesting: float = 3.0


USUAL = Waits()
