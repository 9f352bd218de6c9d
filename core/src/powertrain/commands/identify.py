"""Constants from what is known of a part."""

from argparse import ArgumentParser
from typing import Any

from powertrain.commands.arguments import add_document, text_at
from powertrain.documents.text import parse
from powertrain.identify.answer import check_facts, identified


def options(parser: ArgumentParser, command: str) -> None:
    """Add what it takes."""
    add_document(parser, "FACTS", "a facts document")


def run(arguments: Any) -> str:
    """Return its answer."""
    return identified(check_facts(parse(text_at(arguments.document, "facts")))).model_dump_json()
