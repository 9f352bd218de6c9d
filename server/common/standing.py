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
    stands = all_stands(status).get("database", "up")
    if stands == "up":
        return AWAY
    return "is starting again; nothing is lost" if stands == "is starting" else stands


def all_stands(status: str) -> dict[str, str]:
    """Return how each thing that is kept running stands: "up", or why not; empty if not known."""
    try:
        stands = json.loads(Path(status).read_text())["stands"]
        return {str(name): str(how) for name, how in stands.items()}
    except (OSError, ValueError, KeyError, TypeError, AttributeError):
        return {}
