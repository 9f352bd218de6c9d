"""``manage.py load_demo_briefs``."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from accounts.personal import the_owner
from builds.models import Build
from matching.actions.brief import write_brief
from matching.models import Origin


class Command(BaseCommand):
    """Write the briefs of the demo's craft; one that was changed or taken out stays so."""

    help = "Load the demo briefs of Quillmere that are not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        """Load what is missing."""
        owner = the_owner()
        briefs = json.loads((Path(__file__).parents[2] / "demo.json").read_bytes())
        for slug, wishes in briefs.items():
            build = Build.objects.filter(owner=owner, demo=slug, removed_at=None).first()
            if build is not None and not Origin.objects.filter(build=build).exists():
                write_brief(owner, build.pk, wishes)
