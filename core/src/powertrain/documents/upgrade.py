"""Documents of earlier forms, brought to the present one when they are read.

A form is named by a document's ``format``, ``young-torrent.build/1``. What changed a form for good
gets the next number, and a function here that makes of a document of the form before one of that
form; they are gone through one after another. What is written is always of the present form.
"""

from collections.abc import Callable, Mapping
from typing import Any

from powertrain.errors import Refusal

Plain = dict[str, Any]
Steps = Mapping[str, Callable[[Plain], Plain]]

STEPS: dict[str, Callable[[Plain], Plain]] = {}
"""What makes of a document of a form one of the next. All documents are of their first form yet;
samples of how that was written over time are read in the tests."""


def upgraded(document: Plain, present: str, steps: Steps = STEPS) -> Plain:
    """Return a document in its present form; it is not changed itself.

    Raises
    ------
    Refusal
        If its form is one of a newer program.
    """
    family, _, newest = present.rpartition("/")
    form = document.get("format")
    while isinstance(form, str) and form != present and form in steps:
        document = steps[form](document)
        form = document.get("format")
    if isinstance(form, str) and form.startswith(f"{family}/"):
        number = form.rpartition("/")[2]
        if number.isascii() and number.isdigit() and int(number[:9]) > int(newest):
            what = f"is {form}, of a newer program; this one reads up to {present}"
            raise Refusal("format", what)
    return document
