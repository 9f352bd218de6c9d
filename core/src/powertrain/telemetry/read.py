"""Any logger's table as columns that are understood, with what was done to them."""

import numpy as np
from numpy.typing import NDArray

from powertrain.errors import Refusal
from powertrain.runs.answer import COLUMNS
from powertrain.telemetry.columns import Known, known_column, split_name
from powertrain.telemetry.recorded import Recorded
from powertrain.telemetry.text import decoded, form_of, number_of, rows_of
from powertrain.telemetry.times import day_of, seconds_of, straightened
from powertrain.telemetry.track import from_track

Numbers = NDArray[np.float64]

MOST_ROWS = 2_000_000
FAR = 8.0
"""Times the usual distance from its neighbours' middle from which a value is marked."""


def read_log(text: bytes, mapping: dict[str, str] | None = None) -> Recorded:
    """Return what a logger recorded, or a satellite track in GPX.

    Parameters
    ----------
    mapping : dict, optional
        What columns hold, by their names in the file, where somebody has said so.

    Raises
    ------
    Refusal
        Naming line and column, if it is no table of a logger.
    """
    plain, coding = decoded(text)
    if plain.lstrip().startswith("<"):
        return from_track(text)
    form = form_of(plain, coding)
    width = len(form.header)
    cells: list[list[float]] = [[] for _ in range(width)]
    stamps: list[set[int]] = [set() for _ in range(width)]
    odd: dict[int, tuple[int, str]] = {}
    count = 0
    for number, row in rows_of(plain, form):
        count += 1
        if count > MOST_ROWS:
            raise Refusal(f"line {number}", f"is one more than {MOST_ROWS:,} rows")
        for place in range(width):
            cell = row[place] if place < len(row) else ""
            value = number_of(cell, comma=form.comma_decimals)
            if value is None:
                value = seconds_of(cell)
                if value is None:
                    value = day_of(cell)
                if value is None:
                    odd.setdefault(place, (number, cell))
                    value = float("nan")
                else:
                    stamps[place].add(1)
            cells[place].append(value)
    if count < 2:
        raise Refusal(f"line {form.first_row}", "is the only row; a log has more")
    arrays = [np.array(values) for values in cells]
    found = _understood(form.header, form.units, arrays, stamps, mapping or {})
    recorded = _recorded(form.header, arrays, stamps, found)
    for place, (number, cell) in odd.items():
        name = form.header[place]
        if recorded.said.get(name):
            share = np.mean(~np.isfinite(arrays[place]))
            if share > 0.5:
                raise Refusal(f"line {number}, column {name}", f"is no number: {cell[:40]!r}")
            recorded.notes.append(f"{name}: {cell[:20]!r} in line {number} and others left out.")
    if not set(recorded.columns) - {"time_s"}:
        raise Refusal(
            f"line {form.first_row - 1}",
            "names no column that is known here; say what its columns hold",
        )
    return recorded


def _understood(
    header: tuple[str, ...],
    units: tuple[str, ...],
    arrays: list[Numbers],
    stamps: list[set[int]],
    mapping: dict[str, str],
) -> list[Known | None]:
    found: list[Known | None] = []
    for place, title in enumerate(header):
        name, unit = (title, "") if title in COLUMNS else split_name(title)
        unit = unit or (units[place] if units else "")
        if title in mapping:
            own = known_column(mapping[title], unit, arrays[place])
            found.append(own or Known(mapping[title], 1.0))
            continue
        known = known_column(name, unit, arrays[place])
        if stamps[place]:
            known = Known("time_s" if known is None or known.key != "date" else "date", 1.0)
        found.append(known)
    return found


def _recorded(
    header: tuple[str, ...],
    arrays: list[Numbers],
    stamps: list[set[int]],
    found: list[Known | None],
) -> Recorded:
    columns: dict[str, Numbers] = {}
    said: dict[str, str | None] = {}
    dates: Numbers | None = None
    for title, values, stamp, known in zip(header, arrays, stamps, found, strict=True):
        said[title] = None if known is None or known.key in columns else known.key
        if known is None or known.key in columns or not np.isfinite(values).any():
            continue
        if known.key == "date":
            dates = values
            continue
        factor = 1.0 if stamp and known.key == "time_s" else known.factor
        columns[known.key] = values * factor + known.offset
    notes: list[str] = []
    times = columns.get("time_s")
    if times is not None and dates is not None and np.nanmax(times) <= 86_400 * 1.01:
        times = times + np.where(np.isfinite(dates), dates - np.nanmin(dates), 0.0)
    if times is None:
        times = np.full(len(arrays[0]), np.nan)
    columns["time_s"], notes = straightened(times)
    if "erpm" in columns:
        # Electrical turns are no shaft's; without the poles nothing is known of the motor's.
        notes.append(
            "Electrical turns are left as they are: the motor's poles make them the shaft's."
        )
    if "duty" in columns and np.nanmax(columns["duty"]) > 1.5:
        columns["duty"] = columns["duty"] / 100
    recorded = Recorded(columns, said, notes=notes)
    for key, values in columns.items():
        if key not in ("time_s", "distance_m", "soc_pct", "elevation_m"):
            places = _far_off(values)
            if places:
                recorded.marked[key] = places
                notes.append(f"{key}: {len(places)} values far off their neighbours are marked.")
    return recorded


def _far_off(values: Numbers) -> list[int]:
    """Return rows whose value lies far from those beside it, as a bad contact makes them."""
    known = np.flatnonzero(np.isfinite(values))
    if len(known) < 12:
        return []
    own = values[known]
    before = 0.5 * (np.roll(own, 1) + np.roll(own, 2))
    after = 0.5 * (np.roll(own, -1) + np.roll(own, -2))
    # A step belongs to one of its sides; only what belongs to neither is far off.
    off = np.minimum(np.abs(own - before), np.abs(own - after))
    usual = float(np.median(off))
    spread = max(usual, 0.02 * float(np.percentile(np.abs(own), 90)), 1e-9)
    # The ends have neighbours of the other end.
    far = off > FAR * spread
    far[[0, 1, -2, -1]] = False
    return [int(place) for place in known[far][:10_000]]
