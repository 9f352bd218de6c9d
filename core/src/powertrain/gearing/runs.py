"""Will it run? The geometry of each stage as it is mounted."""

import math

from pydantic import BaseModel

from powertrain.documents.build import Build
from powertrain.documents.vehicle import FixedStage, GearboxStage, Stage, ToothedStage
from powertrain.errors import Refusal
from powertrain.transmission.chain import (
    Strand,
    nearest_belts,
    pulley_pitch_diameter_mm,
    sprocket_outside_diameter_mm,
    sprocket_pitch_diameter_mm,
    strand_of,
    teeth_in_mesh,
)
from powertrain.transmission.spur import Mesh, fewest_with, mesh_range_mm
from powertrain.verdicts.rules.teeth import FEWEST, MOST_RATIO
from powertrain.verdicts.verdict import Severity

USUAL_PITCHES = 40.0
"""Centre distance in pitches that is assumed where none is stated; 30 to 50 are usual
(Machinery's Handbook)."""

LEAST_WRAP_DEG, GOOD_WRAP_DEG = 90.0, 120.0
"""Below the first a chain jumps, below the second it wears (handbooks ask for 120)."""

LEAST_BELT_TEETH = 6
"""Teeth of a belt that must be in mesh; makers' usual rule."""

SAG = (0.02, 0.03)
"""Slack of a level chain at mid-span as a share of the centre distance; common practice."""

KNOCKS = 1.2
"""Contact ratio below which spur gears knock (Shigley, section 13-8)."""

GROUND_MM = 30.0
"""Air that should stay below a sprocket; common practice."""


class StageFact(BaseModel):
    """One figure of a stage."""

    label: str
    value: float
    unit: str
    note: str


class RunFinding(BaseModel):
    """One judgement of a stage, and what to do about it."""

    severity: Severity
    say: str


class StrandFit(BaseModel):
    """A chain or belt that can be bought for a stage: how far apart the shafts then stand.

    `fits` says whether the mount's slot reaches that; None where the slot is not stated.
    """

    links: int
    half_link: bool
    centre_mm: float
    move_mm: float
    fits: bool | None
    say: str


class StageRun(BaseModel):
    """One stage's geometry. `assumed` says what was taken where the document is silent."""

    index: int
    kind: str
    title: str
    facts: list[StageFact]
    findings: list[RunFinding]
    strands: list[StrandFit]
    drawing: list[float] | None
    assumed: str


class RunsAnswer(BaseModel):
    """All stages, and notes to the builder that no figure tells."""

    stages: list[StageRun]
    notes: list[str]


NOTES = [
    "Wheels of a stage stand in one plane: lay a straight edge across both; a millimetre to the "
    "side in a metre already wears a chain.",
    "An idler sits on the slack strand, near the small wheel, and bends a belt no tighter than "
    "the small pulley.",
    "A chain that is too tight loads bearings and costs power at every link; too slack it jumps. "
    "Two to three hundredths of the centre distance up and down at mid-span is right.",
    "See that the thread on the shaft loosens neither forward nor in reverse: right-hand threads "
    "hold where the wheel turns against the nut; otherwise use a key, a pin or a lock nut.",
    "Guard chains, belts and gears: fingers, laces and grass go where they turn.",
]


def will_it_run(build: Build) -> RunsAnswer:
    """Return the geometry of every stage of a build."""
    last = len(build.gearing) - 1
    wheel = build.wheel
    wheel_mm = None if wheel is None else wheel.rolling_circumference_mm / math.pi
    return RunsAnswer(
        stages=[
            _stage(index, stage, wheel_mm if index == last else None)
            for index, stage in enumerate(build.gearing)
        ],
        notes=NOTES if build.gearing else [],
    )


def _stage(index: int, stage: Stage, wheel_mm: float | None) -> StageRun:
    if isinstance(stage, FixedStage | GearboxStage):
        ratio = stage.ratio if isinstance(stage, FixedStage) else max(stage.ratios)
        return StageRun(
            index=index,
            kind=stage.kind,
            title=f"Stage {index + 1}: {stage.kind}",
            facts=[StageFact(label="Ratio", value=ratio, unit=": 1", note="fixed by its inside")],
            findings=[],
            strands=[],
            drawing=None,
            assumed="",
        )
    title = f"Stage {index + 1}: {stage.kind}, {stage.driver_teeth} to {stage.driven_teeth}"
    if stage.kind == "spur":
        return _spur(index, stage, title)
    return _strand(index, stage, title, wheel_mm)


def _counts(stage: ToothedStage) -> list[RunFinding]:
    least, smooth = FEWEST[stage.kind]
    most, usual = MOST_RATIO[stage.kind]
    few = min(stage.driver_teeth, stage.driven_teeth)
    ratio = max(stage.driven_teeth / stage.driver_teeth, stage.driver_teeth / stage.driven_teeth)
    found = []
    if few < smooth:
        severity: Severity = "stop" if few < least else "watch"
        found.append(
            RunFinding(
                severity=severity,
                say=f"{few} teeth; {smooth} run smoothly, below {least} it is not done.",
            )
        )
    if ratio > usual:
        found.append(
            RunFinding(
                severity="stop" if ratio > most else "watch",
                say=f"{ratio:.1f} to 1 in one stage; {usual:g} is usual, {most:g} the most.",
            )
        )
    return found


def _strand(index: int, stage: ToothedStage, title: str, wheel_mm: float | None) -> StageRun:
    chain = stage.kind == "chain"
    pitch, assumed = stage.pitch_mm, []
    if pitch is None:
        pitch = 12.7 if chain else 5.0
        assumed.append(f"a pitch of {pitch:g} mm")
    centre = stage.centre_mm
    if centre is None:
        centre = USUAL_PITCHES * pitch
        assumed.append(f"{centre:.0f} mm from shaft to shaft, {USUAL_PITCHES:.0f} pitches")
    of_teeth = sprocket_pitch_diameter_mm if chain else pulley_pitch_diameter_mm
    small, large = sorted((stage.driver_teeth, stage.driven_teeth))
    radii = of_teeth(pitch, small) / 2, of_teeth(pitch, large) / 2
    findings = _counts(stage)
    if centre <= sum(radii):
        say = f"At {centre:.0f} mm the wheels touch: they need more than {sum(radii):.0f} mm."
        return StageRun(
            index=index,
            kind=stage.kind,
            title=title,
            facts=_diameters(stage, pitch, chain),
            strands=[],
            drawing=None,
            findings=[*findings, RunFinding(severity="stop", say=say)],
            assumed=_taken(assumed),
        )
    strand = Strand(radii[0], radii[1], centre)
    pitches = strand.length_mm / pitch
    facts = [
        *_diameters(stage, pitch, chain),
        StageFact(
            label="Length at this distance",
            value=pitches,
            unit="links" if chain else "teeth",
            note=f"{strand.length_mm:.0f} mm",
        ),
        StageFact(
            label="Wraps the small wheel by",
            value=strand.wrap_deg,
            unit="deg",
            note=f"{teeth_in_mesh(strand, small):.1f} of its {small} teeth",
        ),
    ]
    findings += _wrap(stage, strand, small)
    if wheel_mm is not None and stage.driven_teeth == large:
        findings += _ground(stage, pitch, chain, wheel_mm)
    if chain:
        low, high = (share * centre for share in SAG)
        facts.append(
            StageFact(
                label="Slack at mid-span",
                value=high,
                unit="mm",
                note=f"from {low:.0f} mm on it is not too tight",
            )
        )
    return StageRun(
        index=index,
        kind=stage.kind,
        title=title,
        facts=facts,
        findings=findings,
        strands=_strands(stage, strand, pitch, pitches, centre),
        drawing=(radii[0], radii[1], centre),
        assumed=_taken(assumed),
    )


def _taken(assumed: list[str]) -> str:
    return f"Taken, as the build does not say: {' and '.join(assumed)}." if assumed else ""


def _diameters(stage: ToothedStage, pitch: float, chain: bool) -> list[StageFact]:
    of_teeth = sprocket_pitch_diameter_mm if chain else pulley_pitch_diameter_mm
    facts = []
    for side, teeth in (("Driver", stage.driver_teeth), ("Driven", stage.driven_teeth)):
        note = ""
        if chain:
            note = f"{sprocket_outside_diameter_mm(pitch, teeth):.1f} mm over the tips"
        facts.append(
            StageFact(
                label=f"{side}, pitch diameter", value=of_teeth(pitch, teeth), unit="mm", note=note
            )
        )
    return facts


def _wrap(stage: ToothedStage, strand: Strand, small: int) -> list[RunFinding]:
    if stage.kind == "belt":
        mesh = teeth_in_mesh(strand, small)
        if mesh < LEAST_BELT_TEETH:
            say = f"Only {mesh:.1f} teeth of the belt are in mesh; {LEAST_BELT_TEETH} are needed."
            return [RunFinding(severity="stop" if mesh < 4 else "watch", say=say)]
        return []
    if strand.wrap_deg < GOOD_WRAP_DEG:
        severity: Severity = "stop" if strand.wrap_deg < LEAST_WRAP_DEG else "watch"
        say = (
            f"The chain wraps only {strand.wrap_deg:.0f} degrees; 120 are wanted. Move them apart."
        )
        return [RunFinding(severity=severity, say=say)]
    return []


def _ground(stage: ToothedStage, pitch: float, chain: bool, wheel_mm: float) -> list[RunFinding]:
    wide = (
        sprocket_outside_diameter_mm(pitch, stage.driven_teeth)
        if chain
        else pulley_pitch_diameter_mm(pitch, stage.driven_teeth)
    )
    left = (wheel_mm - wide) / 2
    if left < GROUND_MM:
        severity: Severity = "stop" if left < 5 else "watch"
        say = f"The driven wheel stands {left:.0f} mm above the ground, on level ground."
        return [RunFinding(severity=severity, say=say)]
    return []


def _strands(
    stage: ToothedStage, strand: Strand, pitch: float, pitches: float, centre: float
) -> list[StrandFit]:
    """Return lengths that can be bought, and the one that is there with a link more and less."""
    found: dict[int, str] = {}
    if stage.kind == "chain":
        whole = math.floor(pitches / 2) * 2
        found = {
            whole: "whole links",
            whole + 2: "whole links",
            **{n: "with a half link" for n in (math.floor(pitches), math.ceil(pitches)) if n % 2},
        }
    else:
        shorter, longer = nearest_belts(pitch, pitches)
        found = {n: "a standard length" for n in (shorter, longer) if n is not None}
        if not found:
            found = {round(pitches): "made to length; no standard one is near"}
    if stage.links is not None:
        found[stage.links] = "the one that is on it"
        if stage.kind == "chain":
            found[stage.links + 1] = "the old one with a half link more"
            found[stage.links + 2] = "the old one with a link more"
    strands = []
    for links, say in sorted(found.items()):
        try:
            apart = strand_of(strand.small_mm, strand.large_mm, links * pitch).centre_mm
        except Refusal:
            continue
        if apart <= strand.small_mm + strand.large_mm:
            continue
        move = apart - centre
        slot = stage.slot_mm
        fits = None if slot is None or stage.centre_mm is None else -1e-9 <= move <= slot
        strands.append(
            StrandFit(
                links=links,
                half_link=bool(links % 2) and stage.kind == "chain",
                centre_mm=apart,
                move_mm=move,
                fits=fits,
                say=say,
            )
        )
    return strands


def _spur(index: int, stage: ToothedStage, title: str) -> StageRun:
    module, assumed = stage.module_mm, []
    if module is None:
        module = 1.0
        assumed.append("a module of 1 mm")
    low, high = mesh_range_mm(module, stage.driver_teeth, stage.driven_teeth)
    centre = low if stage.centre_mm is None else stage.centre_mm
    mesh = Mesh(module, stage.driver_teeth, stage.driven_teeth, centre)
    small, large = sorted((stage.driver_teeth, stage.driven_teeth))
    findings = _counts(stage)
    fewest = fewest_with(large / small)
    if small < fewest:
        say = (
            f"{small} teeth are undercut with {large} unless they are corrected; "
            f"{math.ceil(fewest)} are not."
        )
        findings.append(RunFinding(severity="watch", say=say))
    if stage.centre_mm is not None and centre < low * (1 - 1e-9):
        findings.append(
            RunFinding(
                severity="stop",
                say=f"At {centre:.2f} mm they jam: the pitch circles touch at {low:.2f} mm.",
            )
        )
    elif mesh.contact_ratio < KNOCKS:
        findings.append(
            RunFinding(
                severity="stop" if mesh.contact_ratio < 1 else "watch",
                say=f"{mesh.contact_ratio:.2f} teeth bear on average; below {KNOCKS} they knock.",
            )
        )
    facts = [
        StageFact(
            label="Driver, pitch diameter", value=module * stage.driver_teeth, unit="mm", note=""
        ),
        StageFact(
            label="Driven, pitch diameter", value=module * stage.driven_teeth, unit="mm", note=""
        ),
        StageFact(
            label="Pitch circles touch at",
            value=low,
            unit="mm",
            note=f"runs up to {high:.2f} mm, with more backlash",
        ),
        StageFact(label="Teeth that bear", value=mesh.contact_ratio, unit="", note="on average"),
        StageFact(
            label="Backlash beyond the teeth's own",
            value=max(mesh.backlash_mm, 0.0),
            unit="mm",
            note="along the pitch circle",
        ),
    ]
    reach = None if stage.slot_mm is None else (centre, centre + stage.slot_mm)
    if reach is not None and not (reach[0] <= high and low <= reach[1]):
        findings.append(RunFinding(severity="stop", say="The mount can't bring them into mesh."))
    return StageRun(
        index=index,
        kind=stage.kind,
        title=title,
        facts=facts,
        findings=findings,
        strands=[],
        drawing=(module * small / 2, module * large / 2, centre),
        assumed=_taken(assumed),
    )
