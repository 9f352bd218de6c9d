"""How long a body may be, by the address that it is sent to."""

TABLES = ("/api/shelf/bring-in", "/api/builds/bring-in", "/api/ride/way", "/api/log-table")
"""Where whole tables and tracks come in, which are longer than any document."""

ARCHIVES = ("/api/archive",)
"""Where everything of somebody comes in at once."""

LARGEST_DOCUMENT = 2_000_000
LARGEST_TABLE = 100_000_000
LARGEST_ARCHIVE = 1_000_000_000


def most_bytes(path: str) -> int:
    """Return the bytes that a body sent to `path` may have."""
    if path.startswith(TABLES):
        return LARGEST_TABLE
    if path.startswith(ARCHIVES):
        return LARGEST_ARCHIVE
    return LARGEST_DOCUMENT
