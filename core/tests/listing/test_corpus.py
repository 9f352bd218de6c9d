"""Every line of the corpus: nothing read falsely, nine facts in ten read."""

import pytest

from core.tests.listing.corpus import LINES as ELECTRIC
from core.tests.listing.corpus_propellers import PROPELLERS, SOLD_WITH
from powertrain.documents.reading import check_model
from powertrain.documents.shelf import KINDS
from powertrain.listing.read import HOLDS, read_listing

LINES = [*ELECTRIC, *PROPELLERS, *SOLD_WITH]


def same(one, other):
    if isinstance(one, int | float) and isinstance(other, int | float):
        return one == pytest.approx(other, rel=2e-3)
    return one == other


def places(kind, facts):
    """Return facts by the places that an answer names."""
    holds = HOLDS[kind]
    return {
        path
        if path.startswith("facts.")
        else path.removeprefix("part.")
        if path.startswith("part.")
        else f"{holds}.{path}": value
        for path, value in facts.items()
    }


DERIVED = {"continuous_current_a", "peak_current_a", "max_power_w", "cell_capacity_ah", "series"}
"""What follows from other facts of a line, which need not be expected twice."""


def test_the_corpus_is_large_and_of_all_kinds():
    assert len(LINES) >= 120
    assert len({text for _, text, _, _ in LINES}) == len(LINES)
    for kind in HOLDS:
        assert sum(one == kind for one, *_ in LINES) >= 25


@pytest.mark.parametrize(("kind", "text", "sure", "likely"), LINES)
def test_nothing_is_read_falsely(kind, text, sure, likely):
    found = read_listing(text)
    assert found.kind == kind
    meant = places(kind, sure)
    follows = {
        f"facts.{key}"
        for key in (
            "power_w",
            "rated_power_w",
            "most_power_w",
            "c_rating",
            "peak_c",
            "capacity_ah",
            "amps",
            "most_torque_nm",
        )
    }
    for fact in found.understood:
        if fact.path in meant:
            assert same(fact.value, meant[fact.path]), fact
        else:
            assert fact.path in follows or fact.path.split(".")[-1] in DERIVED, fact
    # What is only probable is asked and never stated.
    stated = {fact.path for fact in found.understood}
    assert stated.isdisjoint(places(kind, likely))


def test_nine_facts_in_ten_are_read():
    missed, count = [], 0
    for kind, text, sure, likely in LINES:
        found = read_listing(text)
        read = {fact.path: fact.value for fact in found.understood}
        asked = {one.path: one.guess for one in found.asked}
        for facts, where in ((sure, read), (likely, asked)):
            for path, value in places(kind, facts).items():
                count += 1
                if path not in where or not same(where[path], value):
                    missed.append((text, path, value, where.get(path)))
    assert count > 500
    assert len(missed) <= 0.1 * count, missed


@pytest.mark.parametrize(("kind", "text", "sure", "likely"), LINES)
def test_what_is_stated_is_of_the_sheet_and_fits_the_format(kind, text, sure, likely):
    found = read_listing(text)
    document = {"id": "one", **found.document}
    origins = {known["origin"] for known in document["provenance"].values()}
    assert origins <= {"data_sheet"}
    for one in found.asked:
        if one.needed:
            key = one.path.split(".")[1]
            document[HOLDS[kind]][key] = 5.0 if one.guess is None else one.guess
    check_model(KINDS[kind], document)
