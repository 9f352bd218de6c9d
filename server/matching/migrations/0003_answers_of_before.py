"""Answers of earlier searches in the form of today's: near-ties as a list, bands always there."""

from typing import Any

from django.db import migrations

WORDS = {
    "price": ("", "costs {} more", "costs {} less"),
    "added_mass_kg": ("kg", "weighs {} more", "weighs {} less"),
    "range_km": ("km", "goes {} farther", "goes {} less far"),
}


def anew(apps: Any, schema_editor: Any) -> None:
    matches = apps.get_model("matching", "Match").objects.exclude(answer=None)
    for match in matches.only("pk", "answer").iterator(chunk_size=20):
        for result in match.answer.get("results", []):
            result.setdefault("bands", {})
            result["differs"] = _listed(result.get("differs"))
        match.save(update_fields=["answer"])


def _listed(differs: Any) -> Any:
    if isinstance(differs, list) or not differs:
        return differs if isinstance(differs, list) else None
    return [
        {"by": abs(by), "unit": unit, "say": more if by > 0 else less}
        for key, (unit, more, less) in WORDS.items()
        if (by := differs.get(key))
    ]


class Migration(migrations.Migration):
    dependencies = [("matching", "0002_said")]

    operations = [migrations.RunPython(anew, migrations.RunPython.noop, elidable=True)]
