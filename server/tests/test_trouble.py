"""What the database can't do is told in words: away, full, too slow, or met by another."""

import json

import psycopg
import pytest
from django.db import DataError, InterfaceError, OperationalError, ProgrammingError
from psycopg import errors

from common.standing import AWAY, database_says


def raised(kind, cause):
    problem = kind("told by the database")
    problem.__cause__ = cause
    return problem


@pytest.mark.parametrize(
    ("problem", "status", "words"),
    [
        (raised(OperationalError, psycopg.OperationalError()), 503, "does not answer"),
        (raised(InterfaceError, psycopg.InterfaceError()), 503, "does not answer"),
        (OperationalError(), 503, "does not answer"),
        (ProgrammingError(), 500, "nothing was changed"),
        (raised(OperationalError, errors.DiskFull()), 507, "no room left on its disk"),
        (raised(OperationalError, errors.QueryCanceled()), 503, "took too long"),
        (raised(OperationalError, errors.DeadlockDetected()), 409, "send this again"),
        (raised(DataError, errors.UntranslatableCharacter()), 422, "a character"),
        (raised(ProgrammingError, errors.UndefinedTable()), 500, "nothing was changed"),
    ],
)
def test_each_trouble_has_its_words(api, monkeypatch, problem, status, words):
    def fails(*_):
        raise problem

    monkeypatch.setattr("builds.api.cards_of", fails)
    found, told = api.get("/builds")
    assert found == status
    assert words in told["error"]["what"]
    assert told["error"]["where"] == ("" if status == 500 else "database")


@pytest.mark.parametrize(
    ("stands", "says"),
    [
        ("up", AWAY),
        ("is starting", "is starting again; nothing is lost"),
        ("The disk is full: make room where /x is", "The disk is full: make room where /x is"),
    ],
)
def test_why_the_database_is_away_is_said(tmp_path, stands, says):
    place = tmp_path / "status.json"
    place.write_text(json.dumps({"stands": {"database": stands}}))
    assert database_says(str(place)) == says


@pytest.mark.parametrize("text", ["", "{", "[]", '{"stands": 1}', '{"stands": {}}'])
def test_where_nobody_says_it_is_just_away(tmp_path, text):
    place = tmp_path / "status.json"
    place.write_text(text)
    assert database_says(str(place)) == AWAY
    assert database_says("") == AWAY
