"""The apps of the server, in the order in which the API tells of them.

A new one is a folder and a name here; its models, and the `router` of its `api` module if it has
one, are found by themselves. Which may import which stands in `pyproject.toml`.
"""

APPS = (
    "accounts",
    "engine",
    "builds",
    "gearing",
    "trigger",
    "runs",
    "logbook",
    "shelf",
    "controllers",
    "conversion",
    "matching",
    "upkeep",
)
