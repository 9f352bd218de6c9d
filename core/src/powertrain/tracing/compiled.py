"""A traced run as a loop of machine code, by LLVM; all arithmetic as IEEE 754 has it.

Additions, multiplications, divisions and roots give the very bits that NumPy gives; exponentials,
logarithms and powers are those of the C library.
"""

import ctypes
import ctypes.util
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache
from typing import Any

import llvmlite.binding as llvm
import numpy as np
from numpy.typing import NDArray

from powertrain.tracing.machine_code import engine_of, machine_code
from powertrain.tracing.trace import FUNCTIONS, Item, Trace, TracedNumber, plain_key

LANES = 8
"""Candidates reckoned at once; a processor with narrower registers takes them in parts."""

KEPT = 64
"""Loops that are kept compiled; like groups of candidates share one."""

_NUMBERS, _TRUTHS = f"<{LANES} x double>", f"<{LANES} x i1>"
_ARITHMETIC = {"add": "fadd", "subtract": "fsub", "multiply": "fmul", "divide": "fdiv"}
_COMPARED = {
    "less": "olt",
    "less_equal": "ole",
    "greater": "ogt",
    "greater_equal": "oge",
    "equal": "oeq",
    "not_equal": "une",
}
_LOGICAL = {"logical_and": "and", "logical_or": "or"}
_LIBRARY = {name: {"arctan": "atan", "power": "pow"}.get(name, name) for name in FUNCTIONS}


@dataclass(frozen=True)
class Branch:
    """Where the rest may be left out: unless any of the candidates at hand goes on.

    `otherwise` are the outputs that then hold all the same, by their place.
    """

    goes_on: Item
    otherwise: Mapping[int, Item]


class Writer:
    """Writes the loop for what is traced on a trace.

    `slow` are the values that are the same for all candidates of a row, in the order in which
    the loop has them in a row's table; `inputs` the names of those that differ.
    """

    def __init__(
        self, trace: Trace, outputs: Sequence[Item], branches: Sequence[Branch] = ()
    ) -> None:
        """Write the loop that stores `outputs`, numbers or truth values, for each candidate."""
        self.slow: list[Item] = []
        self.inputs: list[str] = []
        self._slots: dict[Any, int] = {}
        self._values: dict[int, str] = {}
        self._lines: list[str] = []
        self._tape = trace
        for number, branch in enumerate(branches):
            self._write([branch.goes_on, *branch.otherwise.values()])
            bits = self._new(f"bitcast {_TRUTHS} {self._value(branch.goes_on, True)} to i{LANES}")
            shut = self._new(f"icmp eq i{LANES} {bits}, 0")
            self._lines.append(f"br i1 {shut}, label %shut{number}, label %open{number}")
            self._lines.append(f"shut{number}:")
            for row, item in branch.otherwise.items():
                self._store(row, item)
            self._lines.append("br label %onwards")
            self._lines.append(f"open{number}:")
        self._write(outputs)
        for row, item in enumerate(outputs):
            self._store(row, item)
        self._lines.append("br label %onwards")

    def _write(self, items: Sequence[Item]) -> None:
        """Write all that leads to some values and is not written yet."""
        for place in self._tape.needed(items, self._unwritten):
            self._values[place] = self._operation(self._tape.rows[place], self._tape.traces[place])

    def _unwritten(self, traced: TracedNumber) -> bool:
        return traced.quick and traced.place not in self._values

    def _store(self, row: int, item: Item) -> None:
        is_truth = item.__class__ is TracedNumber and item.is_truth
        value = self._value(item, is_truth)
        if is_truth:
            value = self._new(
                f"select {_TRUTHS} {value}, {_NUMBERS} {_all_lanes('1.0')}, "
                f"{_NUMBERS} zeroinitializer"
            )
        self._lines.append(f"store {_NUMBERS} {value}, ptr {self._at('outputs', row)}, align 8")

    def text(self) -> str:
        """Return the whole module in LLVM's language."""
        declared = [
            *(
                f"declare double @{name}({', '.join(['double'] * _arguments(name))})"
                for name in _LIBRARY.values()
            ),
            f"declare {_NUMBERS} @llvm.sqrt.v{LANES}f64({_NUMBERS})",
            f"declare {_NUMBERS} @llvm.fabs.v{LANES}f64({_NUMBERS})",
        ]
        body = "\n".join(self._lines)
        return (
            "\n".join(declared)
            + f"""
define void @solve(ptr %slow, ptr %begins, i64 %rows, ptr %inputs, ptr %outputs, i64 %stride) {{
entry:
  br label %row
row:
  %r = phi i64 [0, %entry], [%r_next, %next]
  %r_next = add i64 %r, 1
  %r_slow = mul i64 %r, {len(self.slow)}
  %table = getelementptr double, ptr %slow, i64 %r_slow
  %p_begin = getelementptr i64, ptr %begins, i64 %r
  %p_end = getelementptr i64, ptr %begins, i64 %r_next
  %begin = load i64, ptr %p_begin, align 8
  %end = load i64, ptr %p_end, align 8
  %some = icmp slt i64 %begin, %end
  br i1 %some, label %candidates, label %next
candidates:
  %i = phi i64 [%begin, %row], [%i_next, %onwards]
{body}
onwards:
  %i_next = add i64 %i, {LANES}
  %more = icmp slt i64 %i_next, %end
  br i1 %more, label %candidates, label %next
next:
  %rest = icmp slt i64 %r_next, %rows
  br i1 %rest, label %row, label %done
done:
  ret void
}}
"""
        )

    def _new(self, text: str) -> str:
        name = f"%v{len(self._lines)}"
        self._lines.append(f"{name} = {text}")
        return name

    def _at(self, table: str, row: int) -> str:
        begin = self._new(f"mul i64 %stride, {row}")
        place = self._new(f"add i64 {begin}, %i")
        return self._new(f"getelementptr double, ptr %{table}, i64 {place}")

    def _value(self, item: Item, truth: bool) -> str:
        """Return the lanes of a value; one that is slow is read where it is used."""
        if item.__class__ is TracedNumber and item.quick:
            return self._values[item.place]
        key = ("traced", item.place) if item.__class__ is TracedNumber else plain_key(item)
        slot = self._slots.setdefault(key, len(self._slots))
        if slot == len(self.slow):
            self.slow.append(item)
        place = self._new(f"getelementptr double, ptr %table, i64 {slot}")
        number = self._new(f"load double, ptr {place}, align 8")
        lanes = self._new(f"insertelement {_NUMBERS} poison, double {number}, i64 0")
        value = self._new(
            f"shufflevector {_NUMBERS} {lanes}, {_NUMBERS} poison, <{LANES} x i32> zeroinitializer"
        )
        if truth:
            return self._new(f"fcmp one {_NUMBERS} {value}, zeroinitializer")
        return value

    def _operation(self, row: tuple[str, tuple[Item, ...]], traced: TracedNumber) -> str:
        name, items = row
        if name == "input":
            self.inputs.append(items[0])
            place = self._at("inputs", len(self.inputs) - 1)
            return self._new(f"load {_NUMBERS}, ptr {place}, align 8")
        if name == "where":
            kind = _TRUTHS if traced.is_truth else _NUMBERS
            chosen = self._value(items[0], truth=True)
            one, other = (self._value(item, traced.is_truth) for item in items[1:])
            return self._new(f"select {_TRUTHS} {chosen}, {kind} {one}, {kind} {other}")
        truths = name in _LOGICAL or name == "logical_not"
        values = [self._value(item, truths) for item in items]
        if name in _ARITHMETIC:
            return self._new(f"{_ARITHMETIC[name]} {_NUMBERS} {values[0]}, {values[1]}")
        if name in _COMPARED:
            return self._new(f"fcmp {_COMPARED[name]} {_NUMBERS} {values[0]}, {values[1]}")
        if name in _LOGICAL:
            return self._new(f"{_LOGICAL[name]} {_TRUTHS} {values[0]}, {values[1]}")
        if name == "logical_not":
            return self._new(f"xor {_TRUTHS} {values[0]}, {_all_lanes('true', 'i1')}")
        if name == "negative":
            return self._new(f"fneg {_NUMBERS} {values[0]}")
        if name in ("sqrt", "absolute"):
            function = f"@llvm.{'sqrt' if name == 'sqrt' else 'fabs'}.v{LANES}f64"
            return self._new(f"call {_NUMBERS} {function}({_NUMBERS} {values[0]})")
        if name in ("maximum", "minimum"):
            return self._greater("oge" if name == "maximum" else "ole", *values)
        return self._lane_by_lane(_LIBRARY[name], values)

    def _greater(self, order: str, one: str, other: str) -> str:
        """Write NumPy's maximum or minimum, which hand on what is not a number."""
        first = self._new(f"fcmp {order} {_NUMBERS} {one}, {other}")
        unknown = self._new(f"fcmp uno {_NUMBERS} {one}, {one}")
        taken = self._new(f"or {_TRUTHS} {first}, {unknown}")
        return self._new(f"select {_TRUTHS} {taken}, {_NUMBERS} {one}, {_NUMBERS} {other}")

    def _lane_by_lane(self, function: str, values: list[str]) -> str:
        lanes = "poison"
        for lane in range(LANES):
            numbers = [
                self._new(f"extractelement {_NUMBERS} {value}, i64 {lane}") for value in values
            ]
            given = ", ".join(f"double {number}" for number in numbers)
            result = self._new(f"call double @{function}({given})")
            lanes = self._new(f"insertelement {_NUMBERS} {lanes}, double {result}, i64 {lane}")
        return lanes


def _all_lanes(value: str, kind: str = "double") -> str:
    return "<" + ", ".join([f"{kind} {value}"] * LANES) + ">"


def _arguments(function: str) -> int:
    return 2 if function == "pow" else 1


class CompiledLoop:
    """A compiled loop over rows of candidates."""

    def __init__(self, text: str) -> None:
        """Compile a module that a `Writer` wrote."""
        _begin()
        self._engine = engine_of(machine_code(text))
        kinds = (
            ctypes.c_void_p,
            ctypes.c_void_p,
            ctypes.c_int64,
            ctypes.c_void_p,
            ctypes.c_void_p,
            ctypes.c_int64,
        )
        self._solve = ctypes.CFUNCTYPE(None, *kinds)(self._engine.get_function_address("solve"))

    def __call__(
        self,
        slow: NDArray[np.float64],
        begins: NDArray[np.int64],
        inputs: NDArray[np.float64],
        count: int,
    ) -> NDArray[np.float64]:
        """Return the outputs of all candidates.

        Parameters
        ----------
        slow : array
            Shape (rows, slow values).
        begins : array of int
            Shape (rows + 1): where each row's candidates begin, and the end of the last.
        inputs : array
            Shape (inputs, candidates and at least `LANES` - 1 more that are not looked at).
        count : int
            How many outputs there are.
        """
        if not (
            slow.flags.c_contiguous and begins.flags.c_contiguous and inputs.flags.c_contiguous
        ):
            raise ValueError("the loop reads whole rows")
        if inputs.shape[1] < int(begins[-1]) + LANES - 1:
            raise ValueError("the loop reads a little beyond the last candidate")
        outputs = np.zeros((count, inputs.shape[1]))
        self._solve(
            slow.ctypes.data,
            begins.ctypes.data,
            len(begins) - 1,
            inputs.ctypes.data,
            outputs.ctypes.data,
            inputs.shape[1],
        )
        return outputs[:, : int(begins[-1])]

    def bound(
        self,
        slow: NDArray[np.float64],
        begins: NDArray[np.int64],
        inputs: NDArray[np.float64],
        outputs: NDArray[np.float64],
    ) -> Callable[[], None]:
        """Return a function that fills `outputs` from `inputs` as they are when it is called.

        All are arrays as for a call, `outputs` of the width of `inputs`; they must stay alive.
        """
        given = (slow, begins, inputs, outputs)
        if not all(array.flags.c_contiguous for array in given):
            raise ValueError("the loop reads whole rows")
        if inputs.shape[1] < int(begins[-1]) + LANES - 1 or outputs.shape[1] != inputs.shape[1]:
            raise ValueError("the loop reads a little beyond the last candidate")
        pointers = [array.ctypes.data for array in given]
        rows, width, solve = len(begins) - 1, inputs.shape[1], self._solve

        def fill() -> None:
            solve(pointers[0], pointers[1], rows, pointers[2], pointers[3], width)

        return fill


@lru_cache(KEPT)
def loop_of(text: str) -> CompiledLoop:
    """Return the compiled loop of a module; like modules are compiled once."""
    return CompiledLoop(text)


@cache
def _begin() -> None:
    """Make LLVM ready for this processor, and tell it where the C library's functions are."""
    llvm.initialize_native_target()
    llvm.initialize_native_asmprinter()
    library = ctypes.CDLL(ctypes.util.find_library("m"))
    for name in _LIBRARY.values():
        address = ctypes.cast(getattr(library, name), ctypes.c_void_p).value
        llvm.add_symbol(name, address)
