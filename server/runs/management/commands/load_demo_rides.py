"""``manage.py load_demo_rides``."""

import json
from pathlib import Path
from typing import Any
from uuid import uuid5

from django.core.management.base import BaseCommand

from accounts.personal import the_owner
from builds.models import Build
from runs.actions import keep_ride
from runs.models import KeptRide
from runs.schemas import KeepRequest

OF, AIR_C = "causeway-trike", -5.0
"""The trike's way home after a winter's day: the last hill is a few metres too long."""


class Command(BaseCommand):
    """Keep the demo ride with its build; one that was taken out stays so."""

    help = "Keep the demo ride of Quillmere that is not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        """Keep what is missing."""
        owner = the_owner()
        build = Build.objects.filter(owner=owner, demo=OF, removed_at=None).first()
        if build is None:
            return
        own = uuid5(build.pk, "the way home")
        if KeptRide.objects.filter(pk=own).exists():
            return
        ride = json.loads((Path(__file__).parents[2] / "demo.json").read_bytes())
        asked = KeepRequest(version=1, name=ride["name"], ride=ride, air_c=AIR_C)
        keep_ride(owner, build.pk, own, asked)
