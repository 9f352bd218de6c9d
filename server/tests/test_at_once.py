"""Two writers at the same moment: one line, both kept."""

import copy
import threading
import uuid

import pytest
from django.db import connection

from accounts.personal import the_owner
from builds.actions.change import save_version
from builds.actions.create import create_build
from builds.errors import Conflict
from builds.models import Build


@pytest.mark.django_db(transaction=True)
def test_of_many_writers_from_one_version_one_stands_and_all_are_kept(trike):
    owner = the_owner()
    build = create_build(owner, trike)
    start = threading.Barrier(6)
    outcomes: list[str] = []

    def write(cells: int) -> None:
        document = copy.deepcopy(trike)
        document["battery"]["series"] = cells
        start.wait()
        try:
            save_version(owner, build.pk, 1, document, uuid.uuid4())
            outcomes.append("stands")
        except Conflict:
            outcomes.append("aside")
        finally:
            connection.close()

    writers = [threading.Thread(target=write, args=(cells,)) for cells in range(6, 12)]
    for writer in writers:
        writer.start()
    for writer in writers:
        writer.join()
    assert sorted(outcomes) == ["aside"] * 5 + ["stands"]
    versions = list(Build.objects.get(pk=build.pk).versions.all())
    assert [version.number for version in versions] == [1, 2, 3, 4, 5, 6, 7]
    cells = {version.document["battery"]["series"] for version in versions}
    assert cells == {13, *range(6, 12)}
    standing = [version.number for version in versions if not version.aside]
    assert standing == [1, Build.objects.get(pk=build.pk).head]
