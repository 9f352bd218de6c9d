"""Text that was made to exhaust its reader."""

import json
import multiprocessing
import resource
from contextlib import suppress

import pytest

from powertrain.documents.table import read_rows
from powertrain.documents.text import DEEPEST, parse
from powertrain.errors import Refusal
from powertrain.gearing.tyre import LONGEST as LONGEST_MARKING
from powertrain.gearing.tyre import tyre_of
from powertrain.listing.read import LONGEST, PATTERNS, read_listing

PUMPED = {
    "quotes that never end": '{"name": "' + '\\"' * 40_000,
    "quotes outside of text": '"' * 80_001,
    "backslashes": '"' + "\\" * 80_001,
    "brackets": "[" * 80_000,
    "objects": '{"a":' * 16_000,
    "digits": "9" * 4_000,
    "a number with a long tail": "1." + "0" * 80_000 + "e",
    "commas": "[" + "1," * 40_000,
    "blanks": " " * 80_000,
}

SECONDS = 60
"""Of computing that a child gets: a thousand times what it needs, and nothing beside the hours that
a reader takes which goes back on itself."""


def in_a_child(work, *given):
    """Do something that may never end, in a process that is ended if it does not."""

    def bounded():
        resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
        work(*given)

    child = multiprocessing.get_context("fork").Process(target=bounded)
    child.start()
    child.join()
    return child.exitcode


def refused(text):
    with pytest.raises(Refusal):
        parse(text)


@pytest.mark.parametrize("text", PUMPED.values(), ids=PUMPED)
def test_no_text_is_read_for_ever(text):
    if text.isdigit():
        assert in_a_child(parse, text) == 0
    else:
        assert in_a_child(refused, text) == 0


UNITS = (
    "1 / ",
    "1/",
    "1 V / ",
    "1",
    "1,",
    "1.",
    "1,000,",
    "1 - ",
    "1 x ",
    "A ",
    "V ",
    "( ",
    '" ',
    "- ",
    "12V/",
    "5 A ",
    "max ",
    "1 A max ",
    "rated 1 ",
    "no load ",
    "1 A @ ",
    "kv ",
    "series ",
    "2 x ",
    "10S",
    "10S4P ",
    "S2 1 min ",
    "1/2 ",
    "draws 1 A at 1 V ",
    "brush ",
    "controller 12 V ",
)


@pytest.mark.parametrize("kind", PATTERNS)
def test_no_listing_is_read_for_ever(kind):
    def read():
        for unit in UNITS:
            read_listing((unit * LONGEST)[: LONGEST - 1] + "!", kind)

    assert in_a_child(read) == 0


@pytest.mark.parametrize("unit", ["1", "1.", "1 ", " ", "1/", "1-", "1x", "1 mm", "r", "\u00d7"])
def test_no_tyre_and_no_cell_of_a_table_is_read_for_ever(unit):
    def read():
        for length in (LONGEST_MARKING - 1, 80_000):
            with suppress(Refusal):
                tyre_of((unit * length)[:length] + "!")
        header = "id,name,chemistry,capacity_ah,resistance_mohm\n"
        list(read_rows("cells", [header, f'a,A,li_ion,"{(unit * 80_000)[:180_000]}!",26\n']))

    assert in_a_child(read) == 0


@pytest.mark.parametrize(("deep", "goes"), [(DEEPEST, True), (DEEPEST + 1, False)])
@pytest.mark.parametrize(("opens", "closes"), [("[", "]"), ('{"a":', "}")])
def test_as_deep_as_it_may_be_and_no_deeper(deep, goes, opens, closes):
    inner = "" if opens == "[" else "1"
    text = opens * deep + inner + closes * deep
    if goes:
        assert parse(text) == json.loads(text)
    else:
        with pytest.raises(Refusal, match="deep"):
            parse(text)


def test_brackets_in_text_do_not_count():
    assert parse(json.dumps(["[{" * 200, '\\"[' * 50])) == ["[{" * 200, '\\"[' * 50]
