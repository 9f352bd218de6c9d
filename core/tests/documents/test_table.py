"""Parts as tables: back exactly as they were, bad rows told by place, and flat memory."""

import tracemalloc

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ops.draws import examples
from powertrain.documents.shelf import KINDS, PackPart
from powertrain.documents.table import BadRow, columns_of, read_rows, write_rows
from powertrain.errors import Refusal
from powertrain.shelf.shipped import shipped_shelf


@pytest.mark.parametrize("kind", KINDS)
def test_every_list_of_the_shelf_comes_back_as_it_was(kind):
    parts = getattr(shipped_shelf(), kind)
    assert list(read_rows(kind, write_rows(kind, parts))) == parts


def test_units_stand_in_the_header():
    headers = [column.header for column in columns_of("motors")]
    assert "motor.kv_rpm_per_v [rpm/V]" in headers
    assert "motor.resistance_ohm [ohm]" in headers
    assert "motor.half_saturation_current_a [A]" in headers
    assert len(headers) == len(set(headers))


@examples(60)
@given(
    ohm=st.floats(1e-6, 1e3),
    volts=st.floats(0.5, 5),
    name=st.text(st.characters(exclude_categories=("C", "Z")), min_size=1, max_size=60),
    note=st.text(st.characters(exclude_categories=("Cs", "Cc")), max_size=80),
)
def test_numbers_and_words_of_any_kind_come_back_exactly(ohm, volts, name, note):
    part = PackPart.model_validate(
        {
            "id": "p",
            "name": name,
            **({"note": note} if note.strip() else {}),
            "battery": {
                "chemistry": "lipo",
                "series": 3,
                "cell_capacity_ah": 5.0,
                "cell_resistance_mohm": ohm,
                "cell_voltage_v": volts,
            },
        }
    )
    assert list(read_rows("packs", write_rows("packs", [part]))) == [part]


def table(*rows):
    return [
        "id,name,chemistry,capacity_ah [Ah],resistance_mohm [mohm]\n",
        *(f"{row}\n" for row in rows),
    ]


def test_bad_rows_are_told_by_line_and_column_and_good_ones_go_in():
    rows = list(
        read_rows(
            "cells",
            table(
                "a,A,li_ion,3.0,26",
                "b,B,li_ion,much,26",
                "c,C,li_ion,3.0",
                "d,D,tin,3.0,26",
                "",
                "e,E,li_ion,-3,26",
                "F f,F,li_ion,3,26",
                "g,G,lipo,5,2.5",
            ),
        )
    )
    good = [row.id for row in rows if not isinstance(row, BadRow)]
    bad = {row.line: (row.column, row.what) for row in rows if isinstance(row, BadRow)}
    assert good == ["a", "g"]
    assert set(bad) == {3, 4, 5, 7, 8}
    assert bad[3] == ("capacity_ah [Ah]", "must be a number, not 'much'")
    assert bad[4] == ("", "has 4 cells under 5 columns")
    assert bad[5][0] == "chemistry"
    assert bad[7][0] == "capacity_ah [Ah]"
    assert bad[8][0] == "id"


@pytest.mark.parametrize(
    ("lines", "where"),
    [
        ([], "line 1"),
        (["id,name,colour\n"], "line 1, 'colour'"),
        (["id,name,name\n"], "line 1"),
    ],
)
def test_a_header_that_means_nothing_is_refused(lines, where):
    with pytest.raises(Refusal) as refused:
        list(read_rows("cells", lines))
    assert refused.value.where == where


@pytest.mark.parametrize("begins", [*"=+-@'", "'=", "''"])
def test_words_that_a_spreadsheet_would_run_stand_behind_an_apostrophe(begins):
    name = f"{begins}HYPERLINK(0)"
    part = shipped_shelf().cells[0].model_copy(update={"name": name, "note": name})
    lines = list(write_rows("cells", [part]))
    assert f"'{name}" in lines[1]
    assert list(read_rows("cells", lines)) == [part]


@pytest.mark.parametrize(
    "cell", ["1_95", "\uff11", "\u0663", "0x10", "inf", "nan", "1,5", "1 000", "--1"]
)
def test_what_only_some_programs_take_for_a_number_is_none(cell):
    quoted = f'"{cell}"'
    (row,) = read_rows("cells", table(f"a,A,li_ion,{quoted},26"))
    assert (row.line, row.column) == (2, "capacity_ah [Ah]")
    assert row.what == f"must be a number, not {cell!r}"


@pytest.mark.parametrize(("between", "capacity"), [(";", "3,25"), ("\t", "3,25"), (";", "3.25")])
def test_tables_as_spreadsheets_save_them(between, capacity):
    header = ["id", "name", "chemistry", "capacity_ah [Ah]", "resistance_mohm"]
    cells = ["a", "Reed, tall", "li_ion", capacity, "26"]
    lines = [f"{between.join(line)}\r\n" for line in (header, cells)]
    (row,) = read_rows("cells", lines)
    assert (row.name, row.capacity_ah, row.resistance_mohm) == ("Reed, tall", 3.25, 26)


def test_quotes_stand_in_a_header_and_a_broken_one_is_told():
    lines = [
        '"id","name","chemistry","capacity_ah [Ah]","resistance_mohm [mohm]"\n',
        "a,A,li_ion,3,26\n",
    ]
    (row,) = read_rows("cells", lines)
    assert row.id == "a"
    for broken in ('"id\n', 'id,"na"me\n', "id\rname\n", f"{'x' * 300_000}\n"):
        with pytest.raises(Refusal) as refused:
            list(read_rows("cells", [broken, "a\n"]))
        assert refused.value.where.startswith("line 1")


@pytest.mark.parametrize(
    ("cell", "column"), [("a\0b", "id"), ('"' + "x" * 300_000 + '"', ""), ("x" * 300_000, "")]
)
def test_a_cell_that_is_none_stays_out_alone(cell, column):
    bad, good = read_rows("cells", table(f"{cell},A,li_ion,3,26", "b,B,li_ion,3,26"))
    assert (bad.line, bad.column, good.id) == (2, column, "b")


def test_lists_in_a_cell_are_read_as_guardedly_as_documents():
    header = "id,name,battery.chemistry,battery.series,provenance\n"
    for cell in ("[" * 5000, "{}" * 2, '"{""a"": NaN}"', '"{""a"": 1, ""a"": 2}"'):
        (row,) = read_rows("packs", [header, f"a,A,lipo,3,{cell}\n"])
        assert (row.line, row.column) == (2, "provenance")


def test_an_object_that_was_begun_and_says_nothing_is_kept():
    part = PackPart.model_validate(
        {
            "id": "p",
            "name": "P",
            "battery": {
                "chemistry": "lipo",
                "series": 3,
                "cooling": {},
                "thermal": {},
                "cell_capacity_ah": 5.0,
                "cell_resistance_mohm": 3.0,
                "cell_voltage_v": 3.8,
            },
        }
    )
    (back,) = read_rows("packs", write_rows("packs", [part]))
    said = back.model_dump(exclude_unset=True)["battery"]
    assert (said["cooling"], said["thermal"]) == ({}, {})
    (row,) = read_rows("packs", ["id,name,battery.cooling\n", "a,A,{1}\n"])
    assert (row.column, row.what) == ("battery.cooling", "must be {}, not '{1}'")


def test_forty_thousand_rows_pass_through_without_piling_up():
    cell = shipped_shelf().cells[0]

    def many():
        for _ in range(40_000):
            yield cell

    tracemalloc.start()
    held = {}
    for count, row in enumerate(read_rows("cells", write_rows("cells", many())), 1):
        last = row
        if count in (1000, 20_000):
            held[count] = tracemalloc.get_traced_memory()[0]
        if count == 20_000:
            tracemalloc.stop()  # the rest only has to come through; being watched takes long
    assert count == 40_000
    assert last == cell
    assert held[20_000] - held[1000] < 100_000
