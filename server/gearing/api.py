"""The API of gearing, teeth, winding and volts: each asks the core one question of a document."""

from django.http import HttpRequest
from ninja import Router

from common.schemas import REFUSED
from gearing import schemas
from powertrain.gearing.boost import BoostAnswer, boost
from powertrain.gearing.chart import ChartAnswer, speed_chart
from powertrain.gearing.gear_teeth import ModuleAnswer, PlanetaryAnswer, module_of, planetary
from powertrain.gearing.ladder.answer import LadderAnswer, ladder_answer
from powertrain.gearing.ladder.rungs import rungs_of
from powertrain.gearing.ladder.sizes import sizes_of
from powertrain.gearing.overvolt import OvervoltAnswer, overvolt
from powertrain.gearing.roads import RoadsAnswer, roads, top_kmh
from powertrain.gearing.runs import RunsAnswer, will_it_run
from powertrain.gearing.split import SplitAnswer, split
from powertrain.gearing.tyre import SpeedsAnswer, TyreAnswer, speeds, tyre_of
from powertrain.gearing.windings import WindingsAnswer, windings
from shelf.whole import shelf_for, shelf_of

router = Router(tags=["engine"])


@router.post("/ladder", response={200: LadderAnswer, **REFUSED}, operation_id="ladder")
def ladder(request: HttpRequest, payload: schemas.LadderRequest) -> LadderAnswer:
    """Return every rung of teeth that exist, in short, with the cautious way up."""
    build = payload.document
    rungs = rungs_of(build, sizes_of(build, shelf_for(request.user, build, "teeth")))
    keep = None if payload.pinned is None else top_kmh(payload.pinned)
    return ladder_answer(build, rungs, limit=payload.limit, brief=payload.brief, keep_kmh=keep)


@router.post("/will-it-run", response={200: RunsAnswer, **REFUSED}, operation_id="will_it_run")
def runs(request: HttpRequest, payload: schemas.BuildRequest) -> RunsAnswer:
    """Return the geometry of every stage."""
    return will_it_run(payload.document)


@router.post("/speed-chart", response={200: ChartAnswer, **REFUSED}, operation_id="speed_chart")
def chart(request: HttpRequest, payload: schemas.BuildRequest) -> ChartAnswer:
    """Return packs in their states against windings."""
    build = payload.document
    return speed_chart(build, shelf_for(request.user, build, "motors"))


@router.post("/windings", response={200: WindingsAnswer, **REFUSED}, operation_id="windings")
def wound(request: HttpRequest, payload: schemas.BuildRequest) -> WindingsAnswer:
    """Return the windings of the can side by side."""
    build = payload.document
    return windings(build, shelf_for(request.user, build, "motors"))


@router.post("/overvolt", response={200: OvervoltAnswer, **REFUSED}, operation_id="overvolt")
def more_volts(request: HttpRequest, payload: schemas.OvervoltRequest) -> OvervoltAnswer:
    """Return a higher pack beside the present one, with its conditions."""
    return overvolt(payload.document, payload.series)


@router.post("/roads", response={200: RoadsAnswer, **REFUSED}, operation_id="roads")
def ways(request: HttpRequest, payload: schemas.RoadsRequest) -> RoadsAnswer:
    """Return the roads to a wished top speed."""
    build = payload.document
    shelf = shelf_for(request.user, build, "motors", "teeth")
    return roads(build, payload.wish_kmh, shelf)


@router.post("/split", response={200: SplitAnswer, **REFUSED}, operation_id="split")
def stages(request: HttpRequest, payload: schemas.SplitRequest) -> SplitAnswer:
    """Return how a reduction is made of teeth that exist."""
    return split(payload.wanted, shelf_of(request.user, "teeth"), tuple(payload.kinds))


@router.post("/planetary", response={200: PlanetaryAnswer, **REFUSED}, operation_id="planetary")
def of_planets(request: HttpRequest, payload: schemas.PlanetaryRequest) -> PlanetaryAnswer:
    """Return the fixed ratio of a planetary gear from its teeth."""
    return planetary(payload.sun, payload.ring, payload.planets)


@router.post("/module", response={200: ModuleAnswer, **REFUSED}, operation_id="gear_module")
def of_inches(request: HttpRequest, payload: schemas.ModuleRequest) -> ModuleAnswer:
    """Return the module that belongs to a diametral pitch."""
    return module_of(payload.diametral_pitch)


@router.post("/tyre", response={200: TyreAnswer, **REFUSED}, operation_id="tyre")
def tyre(request: HttpRequest, payload: schemas.TyreRequest) -> TyreAnswer:
    """Return what a tyre of a marking rolls."""
    return tyre_of(payload.marking, payload.speed_kmh, payload.pressure_share)


@router.post("/speeds", response={200: SpeedsAnswer, **REFUSED}, operation_id="speeds")
def belonging(request: HttpRequest, payload: schemas.SpeedsRequest) -> SpeedsAnswer:
    """Return wheel rpm, speed and motor rpm that belong together."""
    return speeds(
        payload.document,
        wheel_rpm=payload.wheel_rpm,
        motor_rpm=payload.motor_rpm,
        speed_kmh=payload.speed_kmh,
    )


@router.post("/boost", response={200: BoostAnswer, **REFUSED}, operation_id="boost")
def helper(request: HttpRequest, payload: schemas.BoostRequest) -> BoostAnswer:
    """Return what a second motor adds above some speed."""
    return boost(payload.document, payload.helper, payload.tap_cells, payload.from_kmh)
