"""The table of a kind of part: what is looked for, in which order, with its gaps."""

import pytest

from powertrain.catalogue.table import COLUMNS, columns_of, table_of
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import MotorPart, Shelf
from powertrain.errors import Refusal
from powertrain.shelf.shipped import shipped_shelf

SHELF = shipped_shelf()
GAP = check_model(
    MotorPart,
    {
        "id": "gap",
        "name": "Bucket find",
        "note": "From under the sluice",
        "provenance": {"motor.kv_rpm_per_v": {"origin": "measured"}},
        "motor": {
            "kind": "permanent_magnet",
            "kv_rpm_per_v": 300,
            "resistance_ohm": 0.2,
            "no_load_current_a": 0.8,
        },
    },
)


def motors():
    return [*((part, False) for part in SHELF.motors), (GAP, True)]


def column(table, path):
    place = [one.path for one in table.columns].index(path)
    return [row.values[place] for row in table.rows]


@pytest.mark.parametrize("kind", COLUMNS)
def test_every_kind_has_a_table_with_a_label_for_each_column(kind):
    table = table_of(kind, [(part, False) for part in getattr(SHELF, kind)], limit=1000)
    assert table.total == len(table.rows) == len(getattr(Shelf.model_validate(SHELF), kind)) > 0
    assert all(one.label for one in columns_of(kind))
    for row in table.rows:
        assert len(row.values) == len(row.origins) == len(row.asked) == len(table.columns)
        assert not row.own


@pytest.mark.parametrize("falling", [False, True])
@pytest.mark.parametrize(
    "path", [path for path in COLUMNS["motors"] if path != "motor.rated_cells"]
)
def test_gaps_come_last_whichever_way_it_is_sorted(path, falling):
    values = column(table_of("motors", motors(), sort=path, falling=falling, limit=1000), path)
    known = [value for value in values if value is not None]
    assert values[len(known) :] == [None] * (len(values) - len(known))
    assert known == sorted(known, reverse=falling)


def test_all_words_must_stand_somewhere_in_a_part():
    found = table_of("motors", motors(), words="SLUICE bucket", limit=10)
    assert [row.id for row in found.rows] == ["gap"]
    assert table_of("motors", motors(), words="bucket canoe").total == 0
    series = table_of("motors", motors(), words="series wound", limit=1000)
    wanted = {part.id for part in SHELF.motors if part.motor.kind == "series_wound"}
    assert {row.id for row in series.rows} == wanted


def test_what_a_part_could_not_say_is_no_gap():
    table = table_of("motors", motors(), limit=1000)
    place = [one.path for one in table.columns].index("motor.kv_rpm_per_v")
    for row in table.rows:
        part = next(part for part, _ in motors() if part.id == row.id)
        assert row.asked[place] == (part.motor.kind == "permanent_magnet")
    own = next(row for row in table.rows if row.own)
    assert own.origins[place] == "measured"


def test_a_range_of_teeth_is_told_by_its_ends():
    table = table_of("teeth", [(part, False) for part in SHELF.teeth], limit=1000)
    for row, said in zip(table.rows, column(table, "sizes"), strict=True):
        part = next(part for part in SHELF.teeth if part.id == row.id)
        counts = [size.teeth for size in part.sizes]
        low, high = min(counts), max(counts)
        assert said == (f"{low} to {high}" if low != high else str(low))


def test_what_fits_comes_first_and_can_stand_alone():
    def light(parts):
        return [None if (part.motor.mass_kg or 99) < 0.5 else "too heavy" for part in parts]

    table = table_of("motors", motors(), unfit=light, limit=1000)
    reasons = [row.unfit for row in table.rows]
    fit = reasons.count(None)
    assert 0 < fit < len(reasons)
    assert reasons == [None] * fit + ["too heavy"] * (len(reasons) - fit)
    alone = table_of("motors", motors(), unfit=light, only_fit=True, limit=3)
    assert (alone.total, len(alone.rows)) == (fit, 3)


def test_a_column_that_is_none_is_refused_with_those_that_are():
    with pytest.raises(Refusal, match=r"motor\.mass_kg") as refused:
        table_of("motors", motors(), sort="motor.colour")
    assert refused.value.where == "sort"
