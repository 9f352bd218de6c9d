"""Which kind of motor suits a vehicle."""

import json
from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_document, text_at
from powertrain.documents.brief import FORMAT as BRIEF_FORMAT
from powertrain.documents.brief import Brief
from powertrain.documents.reading import check_build, check_model
from powertrain.documents.text import parse
from powertrain.set_up.advise import advice_of
from powertrain.set_up.advised_by import figures_of_brief, figures_of_build


def options(parser: ArgumentParser, command: str) -> None:
    """Add what the command takes."""
    add_document(parser, "DOCUMENT", "a brief or a build document")


def run(arguments: Any) -> str:
    """Return the advice for a brief, or for a build as it stands."""
    document = parse(text_at(arguments.document, "document"))
    if isinstance(document, dict) and document.get("format") == BRIEF_FORMAT:
        figures = figures_of_brief(check_model(Brief, document))
    else:
        figures = figures_of_build(check_build(document))
    return json.dumps(advice_of(figures).model_dump(mode="json"), allow_nan=False)
