"""The password that opens the app to a shop's network, kept as an argon2 hash beside the data."""

from __future__ import annotations

import json
import os
import secrets
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from tinhalo.store.database import DataError

#: Shorter ones are guessed (NIST SP 800-63B, 5.1.1.1, asks for 8 at least).
LEAST = 8
_NAME = "password.json"


class Password:
    """The password of one data folder, and the key that sessions are signed with: a new password ends them all.

    Raises:
        DataError: when what is stored cannot be read.
    """

    def __init__(self, data: Path) -> None:
        self._file = data / _NAME
        self._hasher = PasswordHasher()
        self._hash = self.key = ""
        if self._file.exists():
            try:
                kept = json.loads(self._file.read_text())
                self._hash, self.key = str(kept["hash"]), str(kept["key"])
            except (OSError, ValueError, KeyError, TypeError) as error:
                told = f"{self._file} cannot be read. Delete it and set a new password: tinhalo password."
                raise DataError(told) from error

    @property
    def is_set(self) -> bool:
        """Whether there is one."""
        return self._hash != ""

    def set(self, password: str) -> None:
        """Set a new one.

        Raises:
            DataError: when it is too short, or cannot be kept.
        """
        if len(password) < LEAST:
            raise DataError(f"A password of at least {LEAST} characters is needed.")
        self._hash, self.key = self._hasher.hash(password), secrets.token_urlsafe(32)
        try:
            self._file.parent.mkdir(parents=True, exist_ok=True)
            # Nobody else on the machine may read it, not even for a moment.
            handle = os.open(self._file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
            with os.fdopen(handle, "w") as file:
                json.dump({"hash": self._hash, "key": self.key}, file)
        except OSError as error:
            raise DataError(f"{self._file} cannot be written: {error.strerror or error}.") from error

    def matches(self, password: str) -> bool:
        """Whether it is the one; takes some hundredths of a second on purpose."""
        try:
            return self._hasher.verify(self._hash, password)
        except (VerificationError, InvalidHashError):
            return False
