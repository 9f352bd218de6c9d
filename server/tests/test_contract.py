"""Made-up requests against the published contract: no surprise statuses, no surprise shapes."""

import pytest
import schemathesis
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from hypothesis import HealthCheck, settings
from schemathesis.specs.openapi.checks import positive_data_acceptance

from config.wsgi import application

ADDRESS = "/api/openapi.json"
contract = schemathesis.openapi.from_wsgi(ADDRESS, application)
DRAWN_ALONE = {"phases": {"coverage": {"enabled": False}}}
drawn = schemathesis.openapi.from_wsgi(
    ADDRESS, application, config=schemathesis.Config.from_dict(DRAWN_ALONE)
)


@pytest.fixture
def one_connection(db):
    """Keep the test's own connection, as Django's test client does."""
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    yield
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


OF_ONE_BUILD = (
    "ladder|will-it-run|speed-chart|windings|overvolt|roads|speeds|boost|compare|baseline"
    "|shelf/[^/]+/look|trigger/traced|ride|ride/table|ride/gpx|choose-controller|wires|shunt"
)
"""Questions that take the very document that solve takes; the tests of their own APIs ask them with
odd input."""


ARCHIVE = "archive"
"""No document in JSON can be made up for it; test_archive sends archives that are none."""


WHOLE_DOCUMENT = r"builds|builds/[^/]+/(versions|meets)|briefs/[^/]+|settings|advise|trigger"
"""Questions that take a whole document of a build or a brief, too. To try each value of it takes
thousands of requests; `solve` and a new brief are asked them all, these are asked a few."""

few = settings(
    max_examples=8,
    deadline=None,
    derandomize=True,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)


@contract.exclude(path_regex=rf"^/api/({OF_ONE_BUILD}|{WHOLE_DOCUMENT}|{ARCHIVE})$").parametrize()
@few
def test_answers_keep_the_contract(case, one_connection):
    # Some rules of a document, such as which lever or path it has, can't be said in a schema.
    case.call_and_validate(excluded_checks=[positive_data_acceptance])


@drawn.include(path_regex=rf"^/api/({WHOLE_DOCUMENT})$").parametrize()
@few
def test_so_do_answers_about_whole_documents(case, one_connection):
    case.call_and_validate(excluded_checks=[positive_data_acceptance])
