"""The kinds of field a document is made of, each with its unit, bounds and plain explanation.

A field knows three ranges: what is *usual* (outside it the answer carries a warning), what is
*possible* (outside it the document is refused), and both are said in the document's own unit.
The screens read label, unit and explanation from here too, so that there is one text for each.
"""

from typing import Annotated, Any

from pydantic import BeforeValidator, Field
from pydantic_core import PydanticCustomError

BEYOND_USUAL = 1e4
"""A value this many times outside the usual range is taken for nonsense and refused."""


def _number(value: Any) -> Any:
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise PydanticCustomError("number", "must be a number")
    return value


def _whole(value: Any) -> Any:
    _number(value)
    if isinstance(value, float):
        if not value.is_integer():
            raise PydanticCustomError("whole", "must be a whole number")
        return int(value)
    return value


Number = Annotated[float, BeforeValidator(_number)]
"""A real number; true and false are not numbers, and text is not one either."""

Whole = Annotated[int, BeforeValidator(_whole)]
"""A whole number; 420.0 is one, 420.5 is not."""


def measure(
    label: str,
    unit: str,
    usual: tuple[float, float],
    explain: str,
    *,
    default: Any = ...,
    zero: bool = False,
    least: float | None = None,
    most: float | None = None,
) -> Any:
    """Return the pydantic field of a number with a unit.

    Parameters
    ----------
    label : str
        What the screens call it.
    unit : str
        The unit of the value in the document, '' for a pure number.
    usual : tuple of float
        Lowest and highest value met in practice; outside, a warning.
    explain : str
        One plain sentence: what it is and where to find it.
    default : optional
        The value when absent; a field without one is required.
    zero : bool
        Whether zero (and less than usual, down to zero) is possible.
    least, most : float, optional
        Hard bounds, where nature sets them closer than `BEYOND_USUAL` times the usual.
    """
    low, high = usual
    floor = least if least is not None else (0.0 if zero else low / BEYOND_USUAL)
    ceiling = most if most is not None else high * BEYOND_USUAL
    return Field(
        default,
        title=label,
        description=explain,
        ge=floor,
        le=ceiling,
        allow_inf_nan=False,
        json_schema_extra={"unit": unit, "usual": [low, high]},
    )


def choice(label: str, explain: str, *, default: Any = ...) -> Any:
    """Return the pydantic field of a choice among words."""
    return Field(default, title=label, description=explain)


def words(label: str, explain: str, *, default: Any = ..., longest: int = 120) -> Any:
    """Return the pydantic field of a short text."""
    return Field(default, title=label, description=explain, max_length=longest)
