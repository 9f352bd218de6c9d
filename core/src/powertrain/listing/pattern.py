"""What a pattern of a listing is: a way to write a fact, and what it says of the part."""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

Said = tuple[str, Any, str]
"""A place in the part's document, the value, and how it was read; '' where there is no question."""

NUMBER = r"(\d+(?:[.,]\d+)?)"
TO = r"\s*(?:-|–|to|/)\s*"


@dataclass(frozen=True)
class Pattern:
    """A way to write a fact. Patterns are tried in order; what one has read is not read again."""

    written: re.Pattern[str]
    says: Callable[[re.Match[str]], Iterator[Said]]


def pattern(written: str, says: Callable[[re.Match[str]], Iterator[Said]]) -> Pattern:
    """Return a pattern; letters may be small or capital, and it stands between words."""
    return Pattern(re.compile(rf"(?<![\w.])(?:{written})(?!\w)", re.IGNORECASE), says)


def one(path: str, scale: float = 1.0, note: str = "") -> Callable[[re.Match[str]], Iterator[Said]]:
    """Return a reader of one number for `path`, times `scale`."""

    def says(match: re.Match[str]) -> Iterator[Said]:
        yield path, number(first(match)) * scale, note

    return says


def word(path: str, value: Any, note: str = "") -> Callable[[re.Match[str]], Iterator[Said]]:
    """Return a reader of a word that stands for `value`."""

    def says(match: re.Match[str]) -> Iterator[Said]:
        yield path, value, note

    return says


def first(match: re.Match[str]) -> str:
    """Return the first group that took part."""
    return next(group for group in match.groups() if group is not None)


def number(text: str) -> float:
    """Return a number; a comma before one or two digits, or three after a nought, is a point."""
    whole, comma, rest = text.partition(",")
    if comma and len(rest) == 3 and whole != "0":
        return float(whole + rest)
    return float(text.replace(",", "."))


def whole(text: str) -> int:
    """Return a whole number."""
    return int(number(text))


MASS = (
    pattern(rf"{NUMBER}\s*kg", one("mass_kg")),
    pattern(rf"{NUMBER}\s*(?:g|gr|grams?)", one("mass_kg", 0.001)),
)
PRICE = (
    pattern(rf"(?:price\s*:?\s*)?[£$€]\s*{NUMBER}", one("price")),
    pattern(rf"(?:price\s*:?\s*)?{NUMBER}\s*(?:[£$€]|eur|euros?|gbp|usd)", one("price")),
    pattern(rf"price\s*:?\s*{NUMBER}", one("price")),
)


def box(match: re.Match[str]) -> Iterator[Said]:
    """Yield the three sides of a case."""
    for side, text in zip(("length_mm", "width_mm", "height_mm"), match.groups(), strict=True):
        yield side, number(text), ""


BOX = (pattern(rf"{NUMBER}\s*[x×*]\s*{NUMBER}\s*[x×*]\s*{NUMBER}\s*mm", box),)
