"""Forty invented loggers tell of the same minute; hostile ones are refused by their place."""

import math
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from powertrain.errors import Refusal
from powertrain.telemetry.read import read_log
from powertrain.telemetry.times import seconds_of, straightened

COUNT = 120
AT = np.arange(COUNT) * 0.5
TRUE = {
    "time_s": AT,
    "speed_kmh": 18 + 6 * np.sin(AT / 7),
    "motor_rpm": 1500 + 480 * np.sin(AT / 7),
    "battery_voltage_v": 50 - 0.8 * np.sin(AT / 7),
    "battery_current_a": 12 + 5 * np.sin(AT / 7),
    "case_c": 25 + AT / 6,
}
BEGINS = datetime(2026, 5, 4, 9, 30, tzinfo=UTC)

NAMES = ("Time", "Speed", "Motor rpm", "Battery voltage", "Battery current", "Motor temp")
KEYS = tuple(TRUE)


def clock(form):
    def written(at):
        moment = BEGINS + timedelta(seconds=float(at))
        return {
            "s": f"{at:.2f}",
            "ms": f"{1000 * at:.0f}",
            "us": f"{1e6 * at:.0f}",
            "h:m:s": moment.strftime("%H:%M:%S.") + f"{moment.microsecond // 1000:03d}",
            "m:s": f"{int(at // 60):02d}:{at % 60:05.2f}",
            "12 h": moment.strftime("%I:%M:%S.") + f"{moment.microsecond // 1000:03d} AM",
            "iso": moment.isoformat(),
            "iso z": moment.strftime("%Y-%m-%dT%H:%M:%S.") + f"{moment.microsecond // 1000:03d}Z",
            "iso blank": moment.strftime("%Y-%m-%d %H:%M:%S.%f"),
            "german": moment.strftime("%d.%m.%Y %H:%M:%S.") + f"{moment.microsecond // 1000:03d}",
            "slashes": moment.strftime("%d/%m/%Y %H:%M:%S.") + f"{moment.microsecond // 1000:03d}",
            "epoch": f"{moment.timestamp():.3f}",
            "epoch ms": f"{1000 * moment.timestamp():.0f}",
        }[form]

    return written


def table(
    names=NAMES,
    *,
    separator=",",
    comma=False,
    coding="utf-8",
    time="s",
    factors=(),
    units=None,
    before="",
    after="",
    end="\n",
    quoted=False,
    order=range(6),
    extra=None,
    gone=(),
):
    factors = dict(factors)
    lines = []
    head = [names[at] for at in order] + ([extra[0]] if extra else [])
    if names:
        lines.append(separator.join(f'"{one}"' if quoted else one for one in head))
    if units:
        lines.append(separator.join(units[at] for at in order))
    written = clock(time)
    for row in range(COUNT):
        cells = []
        for at in order:
            key = KEYS[at]
            if key == "time_s":
                cell = written(TRUE[key][row])
            else:
                factor, offset = factors.get(key, (1.0, 0.0))
                cell = f"{TRUE[key][row] * factor + offset:.5f}"
            if comma:
                cell = cell.replace(".", ",") if time != "german" or key != "time_s" else cell
            cells.append("" if (row, key) in gone else f'"{cell}"' if quoted else cell)
        if extra:
            cells.append(extra[1])
        lines.append(separator.join(cells))
    return (before + end.join(lines) + after).encode(coding)


WITH_UNITS = (
    "t",
    "Speed [km/h]",
    "Motor [rpm]",
    "Pack voltage [V]",
    "Pack current [A]",
    "Motor temp [C]",
)

SHAPES = {
    "plain": table(),
    "columns of a run": table(KEYS),
    "semicolons": table(separator=";"),
    "tabs": table(separator="\t"),
    "bars": table(separator="|"),
    "decimal commas": table(separator=";", comma=True),
    "decimal commas and tabs": table(separator="\t", comma=True),
    "quoted": table(quoted=True),
    "quoted decimal commas": table(quoted=True, comma=True, separator=";"),
    "with a mark of utf-8": table(coding="utf-8-sig"),
    "utf-16": table(coding="utf-16"),
    "latin": table(
        ("Zeit", "Geschwindigkeit", "Drehzahl", "Spannung", "Strom", "Motor °C"), coding="cp1252"
    ),
    "umlauts": table(
        ("Zeit", "Geschwindigkeit", "Drehzahl", "Akku Spannung", "Akku Strom", "Motortemp"),
        separator=";",
        comma=True,
    ),
    "units in brackets": table(WITH_UNITS),
    "units in parentheses": table(tuple(n.replace("[", "(").replace("]", ")") for n in WITH_UNITS)),
    "units behind a slash": table(
        ("t/s", "v_veh/kmh", "n_mot/rpm", "U_bat/V", "I_bat/A", "Motor temp/C")
    ),
    "units in a line of their own": table(units=("s", "km/h", "rpm", "V", "A", "°C")),
    "units in brackets below": table(
        units=("[s]", "[km/h]", "[1/min]", "[V]", "[A]", "[C]"), separator=";"
    ),
    "miles": table(
        ("Time", "Speed (mph)", *NAMES[2:]), factors={"speed_kmh": (1 / 1.609344, 0)}.items()
    ),
    "metres a second": table(
        ("Time", "GPS speed m/s", *NAMES[2:]), factors={"speed_kmh": (1 / 3.6, 0)}.items()
    ),
    "knots": table(
        ("Time", "Speed [kn]", *NAMES[2:]), factors={"speed_kmh": (1 / 1.852, 0)}.items()
    ),
    "fahrenheit": table((*NAMES[:5], "Motor temp (F)"), factors={"case_c": (1.8, 32)}.items()),
    "kelvin": table((*NAMES[:5], "Motor temp [K]"), factors={"case_c": (1, 273.15)}.items()),
    "millivolts": table(
        (*NAMES[:3], "Battery mV", *NAMES[4:])
        if False
        else (*NAMES[:3], "Battery voltage [mV]", *NAMES[4:]),
        factors={"battery_voltage_v": (1000, 0)}.items(),
    ),
    "millivolts unsaid": table(factors={"battery_voltage_v": (1000, 0)}.items()),
    "milliamps": table(
        (*NAMES[:4], "Battery current (mA)", NAMES[5]),
        factors={"battery_current_a": (1000, 0)}.items(),
    ),
    "milliseconds": table(("Time [ms]", *NAMES[1:]), time="ms"),
    "milliseconds unsaid": table(("timestamp", *NAMES[1:]), time="ms"),
    "microseconds unsaid": table(("timestamp", *NAMES[1:]), time="us"),
    "times of day": table(time="h:m:s"),
    "minutes and seconds": table(time="m:s"),
    "twelve hours": table(time="12 h"),
    "iso": table(time="iso"),
    "iso with a z": table(time="iso z"),
    "iso with a blank": table(time="iso blank"),
    "days first": table(time="german", separator=";"),
    "days first with slashes": table(time="slashes"),
    "seconds since 1970": table(time="epoch"),
    "milliseconds since 1970": table(time="epoch ms"),
    "words before": table(before="Logger of the reed boat\nSerial 17\n\n"),
    "comments before": table(before="# logger 3\n# begun at dusk\n"),
    "carriage returns": table(end="\r\n"),
    "old carriage returns": table(end="\r"),
    "empty lines between": table().replace(b"\n", b"\n\n"),
    "another order": table(order=(3, 1, 5, 0, 2, 4)),
    "one column more": table(extra=("Mode", "eco")),
    "readings that miss": table(gone={(5, "speed_kmh"), (9, "case_c"), (10, "case_c")}),
    "a comma at each end": table().replace(b"\n", b",\n"),
    "half a line at the end": table(after="\n61.0,1"),
}


def test_there_are_more_than_forty():
    assert len(SHAPES) >= 40


@pytest.mark.parametrize("shape", SHAPES)
def test_all_of_them_tell_of_the_same_minute(shape):
    log = read_log(SHAPES[shape])
    for key, true in TRUE.items():
        found = log.columns[key][:COUNT]
        known = np.isfinite(found)
        assert known.sum() >= COUNT - 3, (key, log.said)
        assert found[known] == pytest.approx(true[known], abs=0.012, rel=1e-4), (key, log.said)


def test_a_reset_of_the_clock_goes_on():
    text = table() + b"\n" + b"\n".join(table().split(b"\n")[1:])
    log = read_log(text)
    assert len(log.times) == 2 * COUNT
    assert np.all(np.diff(log.times) >= 0)
    assert log.times[-1] == pytest.approx(2 * AT[-1] + 0.5)
    assert any("begins anew 1 times" in note for note in log.notes)


def test_midnight_jitter_and_gaps_are_told():
    times, notes = straightened(np.array([86_398.0, 86_399.0, 0.0, 1.0, 0.9, 2.0, 300.0]))
    assert times == pytest.approx([0, 1, 2, 3, 3, 4.1, 302.1])
    assert any("midnight" in note for note in notes)
    assert any("goes back a little" in note for note in notes)
    assert any("1 gaps, the longest of 298 s" in note for note in notes)
    times, notes = straightened(np.array([np.nan, np.nan]))
    assert times.tolist() == [0, 1]


@pytest.mark.parametrize(
    ("cell", "seconds"),
    [
        ("01:02:03", 3723.0),
        ("2:03.5", 123.5),
        ("12:00:01 AM", 1.0),
        ("12:00:01 pm", 43_201.0),
        ("1970-01-02T00:00:01Z", 86_401.0),
        ("02.01.1970 00:00:01", 86_401.0),
        ("noon", None),
        ("12", None),
    ],
)
def test_clocks_are_read(cell, seconds):
    assert seconds_of(cell) == seconds


def test_far_off_values_are_marked_and_stay():
    rows = table().decode().split("\n")
    cells = rows[41].split(",")
    cells[1] = "250.0"
    rows[41] = ",".join(cells)
    log = read_log("\n".join(rows).encode())
    assert log.marked["speed_kmh"] == [40]
    assert log.columns["speed_kmh"][40] == 250.0


def test_what_a_column_holds_may_be_said():
    names = ("Time", "Foo", *NAMES[2:])
    assert "speed_kmh" not in read_log(table(names)).columns
    log = read_log(table(names), {"Foo": "speed_kmh"})
    assert log.columns["speed_kmh"] == pytest.approx(TRUE["speed_kmh"], abs=1e-4)
    assert log.said["Foo"] == "speed_kmh"


def test_shares_of_one_become_per_cent():
    text = b"time,throttle,duty,soc\n0,0,0.2,1\n1,0.5,0.4,0.99\n2,1,0.9,0.98\n"
    log = read_log(text)
    assert log.columns["throttle_pct"].tolist() == [0, 50, 100]
    assert log.columns["soc_pct"].tolist() == pytest.approx([100, 99, 98])


def test_a_million_rows_are_read():
    line = "{:.1f},{:.2f},{:.1f}\n"
    text = "time,speed,current\n" + "".join(
        line.format(at / 10, 20 + 5 * math.sin(at / 900), 11.0) for at in range(1_000_000)
    )
    log = read_log(text.encode())
    assert len(log.times) == 1_000_000
    assert log.times[-1] == pytest.approx(99_999.9)


@pytest.mark.parametrize(
    ("text", "where", "what"),
    [
        (b"", "line 1", "no table"),
        (b"\x00\x01\x02\x03" * 50, "line 1", "not text"),
        (b"\xff\xfe\x00", "file", "is not"),
        (b"only words\nand more words\n", "line 1", "no table"),
        (b"time,speed\n0,1\n", "line 2", "only row"),
        (b"a,b\n" + b"0,1\n" * 5, "line 1", "no column that is known"),
        (b"time,speed\n0,1\n1,2\n2,3\n3," + b"9" * 200_000 + b"\n", "line 5", "longer than"),
        (
            b"time,current,speed\n" + b"".join(b"%d,1,fast\n" % at for at in range(40)),
            "line 2, column speed",
            "no number",
        ),
    ],
)
def test_hostile_ones_are_refused_by_line_and_column(text, where, what):
    with pytest.raises(Refusal) as told:
        read_log(text)
    assert told.value.where == where
    assert what in told.value.what
