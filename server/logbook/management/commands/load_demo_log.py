"""``manage.py load_demo_log``."""

import json
from pathlib import Path
from typing import Any
from uuid import uuid5

from django.core.management.base import BaseCommand

from accounts.personal import the_owner
from builds.models import Build
from logbook.actions import keep_run
from logbook.models import MeasuredRun
from logbook.schemas import KeepRunRequest

OF = "causeway-trike"
"""Whose drag was taken for less than it is; three runs say so."""


class Command(BaseCommand):
    """Put the demo runs into the trike's logbook; one that was taken out stays so."""

    help = "Load the demo logbook of Quillmere that is not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        """Load what is missing."""
        owner = the_owner()
        build = Build.objects.filter(owner=owner, demo=OF, removed_at=None).first()
        if build is None:
            return
        log = json.loads((Path(__file__).parents[2] / "demo.json").read_bytes())
        for place, run in enumerate(log["runs"]):
            own = uuid5(build.pk, f"run {place}")
            if not MeasuredRun.objects.filter(pk=own).exists():
                keep_run(owner, build.pk, own, KeepRunRequest(version=1, run=run))
