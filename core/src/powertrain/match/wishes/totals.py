"""What all parts cost and weigh together."""

from collections.abc import Iterator

from powertrain.documents.brief import Brief
from powertrain.match.wish import OfSum, Wished


def wished(brief: Brief) -> Iterator[Wished]:
    """Yield budget and mass."""
    budget, most_kg = brief.wishes.budget, brief.wishes.max_added_mass_kg
    if budget is not None:
        yield OfSum("budget", "Costs at most", "", budget, -1, "what is not owned yet",
                    lambda seen: seen.price)  # fmt: skip
    if most_kg is not None:
        yield OfSum("added_mass", "Adds at most", "kg", most_kg, -1, "all drive parts",
                    lambda seen: seen.added_kg)  # fmt: skip
