"""What the list shows of a build, worked out once for each of its versions.

It is kept beside the build with a mark of the version and the engine it is of, so that a list of
any length is only read; what is out of date is worked out again a few at a time.
"""

from collections.abc import Iterable
from typing import Any

from django.db.models import F, Q, Value
from django.db.models.functions import Concat

from builds.models import Build, Version
from builds.schemas import BuildCard, BuildFigures
from common.schemas import ErrorBody
from powertrain.bench.solve import glance
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.fingerprint import fingerprint
from powertrain.in_words import drive_in_words

AT_ONCE = 6
"""Cards that are worked out while somebody waits for the list."""


def cards_of(builds: list[Build], at_once: int = AT_ONCE) -> list[BuildCard]:
    """Return the cards of builds, of which at most `at_once` are worked out here and now."""
    work_out([build for build in builds if build.card_of != _mark(build)][:at_once])
    return [_card(build) for build in builds]


def work_out(builds: Iterable[Build]) -> None:
    """Work the cards of builds out, and keep them."""
    wanted = {build.pk: build for build in builds}
    heads = Version.objects.filter(build__in=wanted, number=F("build__head"))
    for build_id, number, document in heads.values_list("build_id", "number", "document"):
        build = wanted[build_id]
        build.head, build.card = number, _worked_out(document)
        build.card_of = _mark(build)
        # Not if it was changed meanwhile; and when it was changed stays as it was.
        Build.objects.filter(pk=build_id, head=number).update(
            card=build.card, card_of=build.card_of
        )


def out_of_date(limit: int) -> list[Build]:
    """Return builds of the lists whose cards are of another version or engine."""
    fresh = Concat(F("head"), Value(f":{fingerprint()}"))
    return list(Build.objects.filter(~Q(card_of=fresh), removed_at=None)[:limit])


def _mark(build: Build) -> str:
    return f"{build.head}:{fingerprint()}"


def _card(build: Build) -> BuildCard:
    known: dict[str, Any] = (build.card or {}) if build.card_of == _mark(build) else {}
    figures, problem = known.get("figures"), known.get("problem")
    return BuildCard(
        id=build.pk,
        name=build.name,
        demo=build.demo,
        changed_at=build.changed_at,
        figures=None if figures is None else BuildFigures(**figures),
        problem=None if problem is None else ErrorBody(**problem),
    )


def _worked_out(document: dict[str, Any]) -> dict[str, Any]:
    try:
        return {"figures": _figures(document).model_dump(mode="json")}
    except Refusal as refusal:
        return {"problem": {"where": refusal.where, "what": refusal.what}}


def _figures(document: dict[str, Any]) -> BuildFigures:
    build = check_build(document)
    seen = glance(build)
    climb, cruise, top = (seen.states[moment] for moment in ("climb", "cruise", "top_speed"))
    severities = [verdict.severity for verdict in seen.verdicts]
    return BuildFigures(
        drive=drive_in_words(build),
        motors=build.motor.count,
        state=seen.going,
        cruise_mps=cruise.speed_mps,
        top_speed_mps=top.speed_mps,
        climb_speed_mps=climb.speed_mps,
        climb_met=seen.met["climb"],
        titles={moment: title.lower() for moment, title in seen.titles.items()},
        stops=severities.count("stop"),
        watches=severities.count("watch"),
    )
