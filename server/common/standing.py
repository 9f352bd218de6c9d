"""How the database stands, in words for whoever asked something of it."""

import json
from pathlib import Path

AWAY = "does not answer; try again in a moment"


def database_says(status: str) -> str:
    """Return what to say of a database that does not answer.

    Parameters
    ----------
    status : str
        Path of the file in which whoever keeps the database running writes how it stands;
        empty if nobody does.
    """
    try:
        stands = json.loads(Path(status).read_text())["stands"].get("database", "up")
    except (OSError, ValueError, KeyError, TypeError, AttributeError):
        return AWAY
    if stands == "up":
        return AWAY
    return "is starting again; nothing is lost" if stands == "is starting" else str(stands)
