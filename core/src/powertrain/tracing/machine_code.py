"""Machine code, made from LLVM's text and kept in a folder where one is named.

The text holds the form of a computation and none of its numbers, so that the same few texts come
back at each start of the product, in each of its processes.
"""

import hashlib
import os
import tempfile
from functools import cache
from pathlib import Path
from typing import Any

import llvmlite
import llvmlite.binding as llvm

FOLDER = "POWERTRAIN_MACHINE_CODE"
"""The environment's name of the folder; without it nothing is kept beyond the process."""

OPTIMISE = 0
"""LLVM's level. Loops run as fast as with 1, within what a run differs from the next, and are
compiled in half the time."""

MOST_FILES = 400
"""Files in the folder, 40 to 200 kB each; those not used for longest go first."""

_DIGEST = hashlib.sha256().digest_size


def machine_code(text: str) -> bytes:
    """Return the object file of a module in LLVM's language, from the folder if it is there."""
    folder = _folder()
    if folder is None:
        return _made(text)
    made_by = (llvmlite.__version__, *_processor(), str(OPTIMISE))
    place = folder / hashlib.sha256("\n".join((*made_by, text)).encode()).hexdigest()
    code = _read(place)
    if code is None:
        code = _made(text)
        _write(place, code)
    return code


def _made(text: str) -> bytes:
    # The code model of code that is put into memory as it is; the engine owns the machine.
    cpu, features = _processor()
    machine = llvm.Target.from_default_triple().create_target_machine(
        cpu=cpu, features=features, opt=OPTIMISE, jit=True
    )
    code: bytes = machine.emit_object(llvm.parse_assembly(text))
    return code


def _read(place: Path) -> bytes | None:
    """Return what a file holds; nothing unless it is whole and this user's own."""
    try:
        with place.open("rb") as file:
            if os.fstat(file.fileno()).st_uid != os.getuid():
                return None
            told, code = file.read(_DIGEST), file.read()
        if hashlib.sha256(code).digest() != told:
            return None
        os.utime(place)
    except OSError:
        return None
    return code


def _write(place: Path, code: bytes) -> None:
    """Keep it; where it can't be kept (a full disk, a folder that may not be written) it is not."""
    try:
        place.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        with tempfile.NamedTemporaryFile(dir=place.parent, delete=False) as file:
            try:
                file.write(hashlib.sha256(code).digest() + code)
                file.close()
                os.replace(file.name, place)
            except OSError:
                os.unlink(file.name)
                raise
        used = sorted(place.parent.iterdir(), key=lambda one: one.stat().st_mtime)
        for old in used[:-MOST_FILES]:
            old.unlink(missing_ok=True)
    except OSError:
        return


def _folder() -> Path | None:
    named = os.environ.get(FOLDER)
    return Path(named) if named else None


@cache
def _processor() -> tuple[str, str]:
    return llvm.get_host_cpu_name(), llvm.get_host_cpu_features().flatten()


def engine_of(code: bytes) -> Any:
    """Return an engine that has the code in memory, ready to be called."""
    machine = llvm.Target.from_default_triple().create_target_machine(jit=True)
    # An engine owns its target machine and takes it along when it goes.
    engine = llvm.create_mcjit_compiler(llvm.parse_assembly(""), machine)
    engine.add_object_file(llvm.ObjectFileRef.from_data(code))
    engine.finalize_object()
    return engine
