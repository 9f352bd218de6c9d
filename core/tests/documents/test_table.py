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
        {"id": "p", "name": name, **({"note": note} if note.strip() else {}),
         "battery": {"chemistry": "lipo", "series": 3, "cell_capacity_ah": 5.0,
                     "cell_resistance_mohm": ohm, "cell_voltage_v": volts}}
    )  # fmt: skip
    assert list(read_rows("packs", write_rows("packs", [part]))) == [part]


def table(*rows):
    return ["id,name,chemistry,capacity_ah [Ah],resistance_mohm [mohm]\n",
            *(f"{row}\n" for row in rows)]  # fmt: skip


def test_bad_rows_are_told_by_line_and_column_and_good_ones_go_in():
    rows = list(
        read_rows(
            "cells",
            table("a,A,li_ion,3.0,26", "b,B,li_ion,much,26", "c,C,li_ion,3.0", "d,D,tin,3.0,26",
                  "", "e,E,li_ion,-3,26", "F f,F,li_ion,3,26", "g,G,lipo,5,2.5"),
        )
    )  # fmt: skip
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


def test_a_hundred_thousand_rows_pass_through_without_piling_up():
    cell = shipped_shelf().cells[0]

    def many():
        for _ in range(100_000):
            yield cell

    tracemalloc.start()
    held = {}
    for count, row in enumerate(read_rows("cells", write_rows("cells", many())), 1):
        last = row
        if count in (1000, 20_000):
            held[count] = tracemalloc.get_traced_memory()[0]
        if count == 20_000:
            tracemalloc.stop()  # the rest only has to come through; being watched takes long
    assert count == 100_000
    assert last == cell
    assert held[20_000] - held[1000] < 100_000
