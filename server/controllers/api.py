"""The API of the controller: which one, set to what, wired how, and which kind of motor at all."""

from django.http import HttpRequest
from ninja import Router

from common.schemas import REFUSED
from controllers import schemas
from powertrain.errors import Refusal
from powertrain.set_up.advise import AdviceAnswer, advice_of
from powertrain.set_up.advised_by import figures_of_brief, figures_of_build
from powertrain.set_up.choose import ChooseAnswer, choose_controller
from powertrain.set_up.gates import Wanted
from powertrain.set_up.hall import HallAnswer, hall_of
from powertrain.set_up.sheet import SheetAnswer, sheet_of
from powertrain.set_up.shunt import ShuntAnswer, copper_mohm, shunt_of
from powertrain.set_up.wires import WiresAnswer, wires_of
from powertrain.verdicts.context import RuleContext
from shelf.whole import shelf_of

router = Router(tags=["engine"])


@router.post("/settings", response={200: SheetAnswer, **REFUSED}, operation_id="settings")
def settings_sheet(request: HttpRequest, payload: schemas.OneBuild) -> SheetAnswer:
    """Return every setting of a build's controller, with its value and why."""
    return sheet_of(payload.document)


@router.post("/advise", response={200: AdviceAnswer, **REFUSED}, operation_id="advise")
def advise(request: HttpRequest, payload: schemas.AdviseRequest) -> AdviceAnswer:
    """Return which kind of motor suits a build as it stands, or a brief."""
    if payload.brief is not None:
        return advice_of(figures_of_brief(payload.brief))
    if payload.document is None:
        raise Refusal("document", "is needed, or a brief")
    return advice_of(figures_of_build(payload.document))


@router.post(
    "/choose-controller", response={200: ChooseAnswer, **REFUSED}, operation_id="choose_controller"
)
def choose(request: HttpRequest, payload: schemas.ChooseRequest) -> ChooseAnswer:
    """Return every controller of the shelf, held against a build: hard gates, then taste."""
    parts = shelf_of(request.user, "controllers").controllers
    wanted = Wanted(payload.reverse, payload.regeneration)
    return choose_controller(payload.document, parts, payload.weights, wanted)


@router.post("/wires", response={200: WiresAnswer, **REFUSED}, operation_id="wires")
def wires(request: HttpRequest, payload: schemas.WiresRequest) -> WiresAnswer:
    """Return the wires of a build: how many, what they lose, which belongs where."""
    build = payload.document
    return wires_of(build, RuleContext.of(build), payload.pack_m, payload.motor_m)


@router.post("/shunt", response={200: ShuntAnswer, **REFUSED}, operation_id="shunt")
def shunt(request: HttpRequest, payload: schemas.ShuntRequest) -> ShuntAnswer:
    """Return the limit that a changed sense resistor makes, and what it does to every part."""
    added = copper_mohm(payload.parallel_mohm, payload.copper_mm, payload.copper_mm2)
    return shunt_of(payload.document, payload.original_mohm, payload.limit_a, added)


@router.post("/hall", response={200: HallAnswer, **REFUSED}, operation_id="hall")
def hall(request: HttpRequest, payload: schemas.HallRequest) -> HallAnswer:
    """Return what a Hall sensor beside its place costs."""
    return hall_of(payload.offset_deg, payload.poles, mechanical=payload.mechanical)
