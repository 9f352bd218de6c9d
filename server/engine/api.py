"""The API of the engine: each asks the core one question of a document."""

from typing import get_args

from django.http import HttpRequest, HttpResponse
from ninja import Router

from common.documents import plain
from common.errors import OperationRefused
from common.schemas import REFUSED
from engine import schemas
from powertrain.bench.engaged import solve_in_gear
from powertrain.compare.baseline import BaselineAnswer, baseline
from powertrain.compare.compared import CompareAnswer, compare
from powertrain.documents.describe import all_fields, changes_between, fields_of_facts, motor_kinds
from powertrain.documents.reading import check_build
from powertrain.errors import Refusal
from powertrain.identify.answer import IdentifyAnswer, identified
from powertrain.identify.facts import CellFacts, Facts, MotorFacts
from powertrain.levers.operations import carry_out

router = Router()


@router.post(
    "/solve",
    response={200: schemas.SolveAnswer, **REFUSED},
    exclude_unset=True,
    tags=["engine"],
    operation_id="solve",
)
def solve_build(request: HttpRequest, payload: schemas.SolveRequest) -> HttpResponse:
    """Carry out operations on a whole document and return everything the bench shows of it."""
    before = plain(payload.document)
    after = before
    for index, operation in enumerate(payload.operations):
        try:
            after = carry_out(after, operation)
        except Refusal as refusal:
            raise OperationRefused(index, refusal) from None
    document = check_build(after)
    answer = schemas.SolveAnswer.model_construct(
        document=document,
        changes=[schemas.Change(**change) for change in changes_between(before, after)],
        answer=solve_in_gear(document, payload.when, payload.gear),
    )
    # Written at once: the answer is of the engine's own models, and to check each number again
    # takes a tenth of the time of a press.
    return HttpResponse(answer.model_dump_json(exclude_unset=True), "application/json")


@router.post(
    "/compare", response={200: CompareAnswer, **REFUSED}, tags=["engine"], operation_id="compare"
)
def compare_builds(request: HttpRequest, payload: schemas.CompareRequest) -> CompareAnswer:
    """Return two to five builds beside one another on equal terms."""
    return compare(payload.documents, payload.terms)


@router.post(
    "/baseline",
    response={200: BaselineAnswer, **REFUSED},
    tags=["engine"],
    operation_id="baseline",
)
def hold_against_table(request: HttpRequest, payload: schemas.BaselineRequest) -> BaselineAnswer:
    """Return what the trade's table says of such a vehicle beside what is computed."""
    return baseline(payload.document, payload.chosen)


@router.get("/fields", response=schemas.FieldList, tags=["engine"], operation_id="fields")
def fields(request: HttpRequest) -> schemas.FieldList:
    """Return every field of the build document with its unit and explanation."""
    return schemas.FieldList(
        fields=all_fields(),
        motor_facts=fields_of_facts(MotorFacts, "motor."),
        cell_facts=fields_of_facts(CellFacts, "cell."),
        motor_kinds=motor_kinds(),
        fact_kinds=list(get_args(MotorFacts.model_fields["kind"].annotation)),
    )


@router.post(
    "/identify",
    response={200: IdentifyAnswer, **REFUSED},
    tags=["engine"],
    operation_id="identify",
)
def identify(request: HttpRequest, payload: Facts) -> IdentifyAnswer:
    """Return the constants that facts of a motor or of cells tell, and what contradicts."""
    return identified(payload)
