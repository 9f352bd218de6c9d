"""Who runs the product in a place: one process, by a lock that ends with it however it ends."""

import fcntl
import json
import os
from pathlib import Path
from typing import Any


class Taken(Exception):
    """Another process runs the product here; `told` is what it wrote down about itself."""

    def __init__(self, told: dict[str, Any]) -> None:
        super().__init__(told)
        self.told = told

    def __str__(self) -> str:
        process = f" (process {self.told['pid']})" if "pid" in self.told else ""
        address = self.told.get("address")
        where = f" at {address}" if address else " and is just beginning"
        return f"Young Torrent runs here already{process}{where}. It was left as it is."


class Owner:
    """The lock on a place, held until `leave` or the end of this process."""

    def __init__(self, local: Path) -> None:
        self._descriptor = os.open(local / "owner.lock", os.O_RDWR | os.O_CREAT, 0o600)
        try:
            fcntl.flock(self._descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            told = _told(os.pread(self._descriptor, 4096, 0))
            os.close(self._descriptor)
            raise Taken(told) from None
        self.tell()

    def tell(self, **more: Any) -> None:
        """Write down who owns the place, for whoever else comes."""
        text = json.dumps({"pid": os.getpid(), **more}).encode()
        os.ftruncate(self._descriptor, 0)
        os.pwrite(self._descriptor, text, 0)

    def leave(self) -> None:
        """Give the place free."""
        os.close(self._descriptor)


def _told(text: bytes) -> dict[str, Any]:
    try:
        told = json.loads(text)
    except ValueError:
        return {}
    return told if isinstance(told, dict) else {}
