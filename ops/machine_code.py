"""Where what the engine compiles is kept, so that the next process need not compile it."""

import os
from pathlib import Path

FOLDER = "POWERTRAIN_MACHINE_CODE"
"""As the engine calls it; repeated, since who only begins processes need not load a compiler."""


def keep_below(local: Path) -> None:
    """Let this process, and those that it begins, keep compiled code below a folder.

    Somebody who named another folder keeps that.
    """
    os.environ.setdefault(FOLDER, str(local / "machine-code"))
