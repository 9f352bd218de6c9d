"""``manage.py load_demo``."""

from typing import Any

from django.core.management.base import BaseCommand

from accounts.personal import the_owner
from builds.actions.create import create_build
from builds.demo import demo_builds
from builds.models import Build
from common.documents import plain


class Command(BaseCommand):
    """Put the demo builds in that were never there; one that was changed or removed stays so."""

    help = "Load the demo builds of Quillmere that are not there yet."

    def handle(self, *args: Any, **options: Any) -> None:
        """Load what is missing."""
        owner = the_owner()
        known = set(Build.objects.filter(owner=owner).values_list("demo", flat=True))
        for slug, document in reversed(demo_builds().items()):
            if slug not in known:
                create_build(owner, plain(document), demo=slug)
