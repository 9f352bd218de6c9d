"""How long a body may be, by the address that it is sent to."""

import re

TABLES = ("/api/shelf/bring-in", "/api/builds/bring-in", "/api/ride/way", "/api/log-table")
"""Where whole tables and tracks come in, which are longer than any document."""

PHOTOS = re.compile(r"/api/builds/[^/]+/logbook/runs/[^/]+/photos/[^/]+")
"""Where photos come in, as cameras make them."""

ARCHIVES = ("/api/archive",)
"""Where everything of somebody comes in at once."""

LARGEST_DOCUMENT = 2_000_000
LARGEST_TABLE = 100_000_000
LARGEST_PHOTO = 25_000_000
LARGEST_ARCHIVE = 1_000_000_000


def most_bytes(path: str) -> int:
    """Return the bytes that a body sent to `path` may have."""
    if path.startswith(TABLES):
        return LARGEST_TABLE
    if PHOTOS.fullmatch(path):
        return LARGEST_PHOTO
    if path.startswith(ARCHIVES):
        return LARGEST_ARCHIVE
    return LARGEST_DOCUMENT
