"""How facts are written in listings, and what each way says of the part.

A `Pattern` is one way to write one fact. `Qualified` reads numbers of one unit together with the
words beside them ("30 A continuous 60 A peak", "cont. 30 A, burst 60 A"), which may stand before
or behind. Each says where the fact belongs and whether it is sure: what is not sure is asked.
"""

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple, Protocol

ListedKind = Literal["motors", "controllers", "packs", "propellers"]


class Said(NamedTuple):
    """A place in the part's document and a value.

    Places that begin with ``part.`` are of the part itself, with ``facts.`` of what only helps to
    guess the rest. `note` is how it was read, '' where there is no question; `sure` whether its
    words leave no doubt.
    """

    path: str
    value: Any
    note: str = ""
    sure: bool = True


Says = Callable[[re.Match[str]], Iterator[Said]]
Span = tuple[int, int]

NUMBER = r"(\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:[.,]\d+)?)"
TO = r"\s*(?:-|–|to|/|~)\s*"
LONGEST_GAP = 24
"""Letters between a number and the word that qualifies it, at the most."""


class Reader(Protocol):
    """What reads facts out of a text."""

    def read(self, text: str) -> Iterator[tuple[Span, list[Said]]]:
        """Yield what is said and where; the text is as earlier readers left it."""
        ...


@dataclass(frozen=True)
class Pattern:
    """A way to write a fact. Patterns are tried in order; what one has read is not read again."""

    written: re.Pattern[str]
    says: Says

    def read(self, text: str) -> Iterator[tuple[Span, list[Said]]]:
        """Yield every place where it stands."""
        for match in self.written.finditer(text):
            yield match.span(), list(self.says(match))


def pattern(written: str, says: Says) -> Pattern:
    """Return a pattern; letters may be small or capital, and it stands between words."""
    return Pattern(re.compile(rf"(?<![\w.])(?:{written})(?!\w)", re.IGNORECASE), says)


def one(path: str, scale: float = 1.0, note: str = "", *, sure: bool = True) -> Says:
    """Return a reader of one number for `path`, times `scale`."""

    def says(match: re.Match[str]) -> Iterator[Said]:
        yield Said(path, _tidy(number(first(match)) * scale), note, sure)

    return says


def word(path: str, value: Any, note: str = "", *, sure: bool = True) -> Says:
    """Return a reader of a word that stands for `value`."""

    def says(match: re.Match[str]) -> Iterator[Said]:
        yield Said(path, value, note, sure)

    return says


@dataclass(frozen=True)
class Qualified:
    """Numbers of one unit with the words that qualify them, on either side.

    `words` are the qualifiers, each by a pattern; `says` makes facts of a qualifier (None where
    there is none) and a number.
    """

    unit: str
    scale: float
    words: tuple[tuple[str, str], ...]
    says: Callable[[str | None, float], Iterator[Said]]

    def read(self, text: str) -> Iterator[tuple[Span, list[Said]]]:
        """Yield each number with the word that goes with it."""
        numbers = list(
            re.finditer(rf"(?<![\w.,/]){NUMBER}\s*(?:{self.unit})(?![\w²])", text, FLAGS)
        )
        marks = [
            (match.span(), key)
            for key, written in self.words
            for match in re.finditer(rf"(?<!\w)(?:{written})(?!\w)", text, FLAGS)
        ]
        bound = _bound(text, [match.span() for match in numbers], sorted(marks))
        for place, match in enumerate(numbers):
            mark, key = bound.get(place, (match.span(), None))
            value = _tidy(number(match[1]) * self.scale)
            span = (min(mark[0], match.start()), max(mark[1], match.end()))
            yield span, list(self.says(key, value))


FLAGS = re.IGNORECASE
BETWEEN = re.compile(
    r"[\s:=()@.]*(?:(?:current|currents|amps?|draw|power|output|voltage|volts?|speed|rating|torque"
    r"|rpm|discharge|of|is|at|the|for)[\s:=().]*)*",
    FLAGS,
)
"""What may stand between a number and the word that qualifies it."""


VOLTS = re.compile(rf"\s*{NUMBER}\s*V(?!\w)", FLAGS)


def _bound(
    text: str, numbers: list[Span], marks: list[tuple[Span, str]]
) -> dict[int, tuple[Span, str]]:
    """Return, by the place of a number, the word that goes with it and where that stands."""
    bound: dict[int, tuple[Span, str]] = {}

    def touches(begin: int, end: int) -> bool:
        gap = text[begin:end]
        return len(gap) <= LONGEST_GAP and BETWEEN.fullmatch(gap) is not None

    def marked_after(place: int) -> bool:
        return any(
            span[0] >= numbers[place][1] and touches(numbers[place][1], span[0])
            for span, _ in marks
        )

    for span, key in marks:
        before = [place for place, at in enumerate(numbers) if at[1] <= span[0]]
        after = [place for place, at in enumerate(numbers) if at[0] >= span[1]]
        left = before[-1] if before and touches(numbers[before[-1]][1], span[0]) else None
        right = after[0] if after and touches(span[1], numbers[after[0]][0]) else None
        # Where volts follow, the word is theirs: "1.5 kW max 60 V".
        free_left = left is not None and left not in bound and not VOLTS.match(text, span[1])
        if right is not None and not (free_left and marked_after(right)):
            bound.setdefault(right, (span, key))
        elif free_left and left is not None:
            bound[left] = (span, key)
    return bound


def first(match: re.Match[str]) -> str:
    """Return the first group that took part."""
    return next(group for group in match.groups() if group is not None)


def number(text: str) -> float:
    """Return a number; a comma before one or two digits, or three after a nought, is a point."""
    whole, comma, rest = text.partition(",")
    if comma and len(rest.split(".")[0]) == 3 and whole != "0":
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


def whole(text: str) -> int:
    """Return a whole number."""
    return int(number(text))


def _tidy(value: float) -> float:
    return float(f"{value:.6g}")


MASS = (
    pattern(rf"{NUMBER}\s*(?:kg|kgs|kilos?)", one("mass_kg")),
    pattern(rf"{NUMBER}\s*(?:g|gr|grams?)", one("mass_kg", 0.001)),
    pattern(rf"{NUMBER}\s*(?:lbs?|pounds?)(?!\s*(?:thrust|-?ft))", one("mass_kg", 0.45359237)),
    pattern(rf"{NUMBER}\s*oz(?![\s-]*in)", one("mass_kg", 0.028349523)),
)
PRICE = (
    pattern(rf"(?:price\s*:?\s*)?[£$€]\s*{NUMBER}", one("price")),
    pattern(rf"(?:price\s*:?\s*)?{NUMBER}\s*(?:[£$€]|eur|euros?|gbp|usd)", one("price")),
    pattern(rf"price\s*:?\s*{NUMBER}", one("price")),
)


def box(scale: float) -> Says:
    """Return a reader of the three sides of a case."""

    def says(match: re.Match[str]) -> Iterator[Said]:
        sides = ("length_mm", "width_mm", "height_mm")
        for side, text in zip(sides, match.groups(), strict=True):
            yield Said(side, _tidy(number(text) * scale))

    return says


SIDES = rf"{NUMBER}\s*[x×*]\s*{NUMBER}\s*[x×*]\s*{NUMBER}"
BOX = (
    pattern(rf"{SIDES}\s*mm", box(1.0)),
    pattern(rf"{SIDES}\s*cm", box(10.0)),
    pattern(rf"{SIDES}\s*(?:in(?:ch(?:es)?)?|\"|″)", box(25.4)),
)
