"""What commands read from their arguments."""

import argparse
import math
import sys
from collections.abc import Callable
from pathlib import Path

from powertrain.errors import Refusal

STEEPEST_PCT = 1000.0
FASTEST_KMH = 1e5


def add_document(parser: argparse.ArgumentParser, noun: str, which: str) -> None:
    """Add the place of the document that a command is asked about."""
    parser.add_argument("document", metavar=noun, help=f"{which}, - for standard input")


def add_build(parser: argparse.ArgumentParser) -> None:
    """Add the place of a build document."""
    add_document(parser, "BUILD", "a build document")


def add_grade(parser: argparse.ArgumentParser) -> None:
    """Add the grade of the road."""
    grade = bounded("grade", -STEEPEST_PCT, STEEPEST_PCT)
    parser.add_argument("--grade", type=grade, default=None)


def add_speed(parser: argparse.ArgumentParser, name: str) -> None:
    """Add a speed in km/h."""
    parser.add_argument(f"--{name}", type=bounded(name, 0.0, FASTEST_KMH), required=True)


def bounded(name: str, least: float, most: float) -> Callable[[str], float]:
    """Return what reads a number between two others."""

    def read(text: str) -> float:
        try:
            value = float(text)
        except ValueError:
            raise Refusal(name, f"must be a number, not {text[:40]!r}") from None
        if not math.isfinite(value) or not least <= value <= most:
            raise Refusal(name, f"must lie between {least:g} and {most:g}")
        return value

    return read


def whole(name: str, least: int, most: int) -> Callable[[str], int]:
    """Return what reads a whole number between two others."""

    def read(text: str) -> int:
        if not text.isascii() or not text.isdigit() or not least <= int(text[:9]) <= most:
            raise Refusal(name, f"must be a whole number between {least} and {most}")
        return int(text)

    return read


def text_at(place: str, what: str = "build") -> bytes:
    """Return what stands in a file, or on standard input for a dash; raise `Refusal` if nothing."""
    try:
        return sys.stdin.buffer.read() if place == "-" else Path(place).read_bytes()
    except OSError as problem:
        raise Refusal(what, f"can't be read: {problem.strerror}") from None
