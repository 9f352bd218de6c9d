"""Which engine this is: what it said can be kept for as long as it would say the same."""

from functools import cache
from hashlib import blake2b
from pathlib import Path


@cache
def fingerprint() -> str:
    """Return a mark of everything that this engine computes by: its code and what it reads."""
    place = Path(__file__).parent
    mark = blake2b(digest_size=8)
    for file in sorted(place.rglob("*")):
        if file.suffix in (".py", ".json", ".csv", ".npy") and file.is_file():
            mark.update(str(file.relative_to(place)).encode())
            mark.update(file.read_bytes())
    return mark.hexdigest()
