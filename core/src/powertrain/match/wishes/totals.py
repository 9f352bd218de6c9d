"""What all parts cost and weigh together."""

from collections.abc import Iterator

from powertrain.documents.brief import Brief
from powertrain.match.wish import OfSum, Rejection, Wished

USUAL_SHARE = 0.6
"""Mass of a drive over that of vehicle and load beyond which nobody builds it unless he says so;
common practice, no source."""


WISHES = {
    "budget": Rejection("it costs more than the budget", ("budget",)),
    "added_mass": Rejection("it weighs more than allowed", ("max_added_mass_kg",)),
}


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield budget and mass."""
    budget, most_kg = brief.wishes.budget, brief.wishes.max_added_mass_kg
    if budget is not None:
        yield OfSum(
            "budget",
            "Costs at most",
            "",
            budget,
            -1,
            "what is not owned yet",
            lambda candidates: candidates.price,
        )
    label = "Adds at most"
    if most_kg is None:
        most_kg, label = USUAL_SHARE * brief.vehicle.mass_kg, "Adds at most (usual)"
    yield OfSum(
        "added_mass",
        label,
        "kg",
        most_kg,
        -1,
        "all drive parts",
        lambda candidates: candidates.added_kg,
    )
