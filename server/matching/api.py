"""The API of briefs and matches: it translates, and leaves deciding to actions and core."""

from uuid import UUID

from django.http import HttpRequest
from ninja import Query, Router, Status

from builds.models import Build
from common.documents import plain
from common.pages import page_after
from common.schemas import MISSING, REFUSED
from matching import schemas
from matching.actions.brief import keep_brief, set_away, write_brief
from matching.actions.search import begin_search, call_off, keep_and_search, make_build
from matching.candidates import candidates_of
from matching.models import Brief, Match, Origin
from powertrain.documents.brief import Brief as BriefDocument
from powertrain.documents.build import Build as BuildDocument
from powertrain.documents.reading import check_model
from powertrain.errors import Refusal
from powertrain.match.meets import meets
from powertrain.match.starts import start_briefs
from powertrain.match.why import why

router = Router()


@router.get(
    "/brief-starts",
    response=list[schemas.StartBrief],
    exclude_unset=True,
    tags=["matching"],
    operation_id="brief_starts",
)
def brief_starts(request: HttpRequest) -> list[schemas.StartBrief]:
    """Return the briefs to begin from."""
    return [
        schemas.StartBrief(id=start.id, title=start.title, say=start.say, document=start.document)
        for start in start_briefs()
    ]


@router.get(
    "/briefs",
    response={200: schemas.BriefList, **REFUSED},
    tags=["matching"],
    operation_id="list_briefs",
)
def list_briefs(request: HttpRequest, asked: Query[schemas.BriefsAsked]) -> schemas.BriefList:
    """Return a page of the owner's briefs, the last changed first."""
    found = Brief.objects.of(request.user).defer("document", "said")
    page, after = page_after(found, ["-changed_at", "-id"], asked.after, asked.limit)
    last = Match.objects.last_of(page)
    return schemas.BriefList(
        briefs=[
            schemas.BriefCard(
                id=brief.pk,
                name=brief.name,
                changed_at=brief.changed_at,
                match=_card(last[brief.pk]) if brief.pk in last else None,
            )
            for brief in page
        ],
        total=found.count(),
        next=after,
        removed=[
            schemas.RemovedBrief(id=brief.pk, name=brief.name, removed_at=brief.removed_at)
            for brief in Brief.objects.removed(request.user)[:20]
            if brief.removed_at is not None
        ],
    )


@router.post(
    "/briefs",
    response={201: schemas.BriefAnswer, **REFUSED},
    exclude_unset=True,
    tags=["matching"],
    operation_id="create_brief",
)
def create_brief(
    request: HttpRequest, payload: schemas.BriefRequest
) -> Status[schemas.BriefAnswer]:
    """Begin a brief, and a search for it where that is asked."""
    return Status(201, _answer(_kept(request, payload)))


@router.get(
    "/briefs/{brief_id}",
    response={200: schemas.BriefAnswer, **MISSING},
    exclude_unset=True,
    tags=["matching"],
    operation_id="read_brief",
)
def read_brief(request: HttpRequest, brief_id: UUID) -> schemas.BriefAnswer:
    """Return a brief as it stands."""
    return _answer(Brief.objects.one(request.user, brief_id))


@router.post(
    "/briefs/{brief_id}",
    response={200: schemas.BriefAnswer, **MISSING},
    exclude_unset=True,
    tags=["matching"],
    operation_id="change_brief",
)
def change_brief(
    request: HttpRequest, brief_id: UUID, payload: schemas.BriefRequest
) -> schemas.BriefAnswer:
    """Say a brief anew, and search for it where that is asked."""
    return _answer(_kept(request, payload, brief_id))


@router.delete(
    "/briefs/{brief_id}",
    response={204: None, **MISSING},
    tags=["matching"],
    operation_id="remove_brief",
)
def remove_brief(request: HttpRequest, brief_id: UUID) -> Status[None]:
    """Take a brief out of the list; it can be brought back."""
    set_away(request.user, brief_id, away=True)
    return Status(204, None)


@router.post(
    "/briefs/{brief_id}/bring-back",
    response={204: None, **MISSING},
    tags=["matching"],
    operation_id="bring_brief_back",
)
def bring_brief_back(request: HttpRequest, brief_id: UUID) -> Status[None]:
    """Put a removed brief back into the list."""
    set_away(request.user, brief_id, away=False)
    return Status(204, None)


@router.post(
    "/briefs/{brief_id}/matches",
    response={201: schemas.MatchCard, **MISSING},
    tags=["matching"],
    operation_id="begin_match",
)
def begin_match(request: HttpRequest, brief_id: UUID) -> Status[schemas.MatchCard]:
    """Search the shelf for what meets a brief."""
    return Status(201, _card(begin_search(request.user, brief_id)))


@router.get(
    "/matches/{match_id}",
    response={200: schemas.MatchProgress, **MISSING},
    tags=["matching"],
    operation_id="read_match",
)
def read_match(request: HttpRequest, match_id: UUID) -> schemas.MatchProgress:
    """Return how far a search is, and the answer as far as there is one."""
    match = Match.objects.one(request.user, match_id)
    return schemas.MatchProgress(
        **_card(match).model_dump(), document=match.document, answer=match.answer
    )


@router.post(
    "/matches/{match_id}/cancel",
    response={200: schemas.MatchCard, **MISSING},
    tags=["matching"],
    operation_id="cancel_match",
)
def cancel_match(request: HttpRequest, match_id: UUID) -> schemas.MatchCard:
    """Call a search off; what it found so far stays."""
    return _card(call_off(request.user, match_id))


@router.post(
    "/matches/{match_id}/why",
    response={200: schemas.WhyTold, **MISSING},
    tags=["matching"],
    operation_id="why_not",
)
def why_not(request: HttpRequest, match_id: UUID, payload: schemas.WhyRequest) -> schemas.WhyTold:
    """Return which rule excludes a part or a combination, and by how much."""
    if payload == schemas.WhyRequest():
        raise Refusal("motor", "or another part must be named, to ask why it is not found")
    match = Match.objects.one(request.user, match_id)
    brief = check_model(BriefDocument, match.document)
    named = {key: ref for key, ref in payload.model_dump().items() if ref is not None}
    searched = candidates_of(request.user, brief, *named.values())
    return schemas.WhyTold(answer=why(brief, searched.shelf, named))


@router.post(
    "/matches/{match_id}/build",
    response={201: schemas.Made, **MISSING},
    tags=["matching"],
    operation_id="make_build",
)
def make(
    request: HttpRequest, match_id: UUID, payload: schemas.MakeRequest
) -> Status[schemas.Made]:
    """Make a build of a result, with its brief attached."""
    return Status(201, schemas.Made(id=make_build(request.user, match_id, payload.rank).pk))


@router.post(
    "/builds/{build_id}/meets",
    response={200: schemas.MetBrief, **MISSING},
    tags=["matching"],
    operation_id="meets_brief",
)
def meets_brief(request: HttpRequest, build_id: UUID, payload: BuildDocument) -> schemas.MetBrief:
    """Return how far a document, as it stands on the bench, meets the brief of its build."""
    build = Build.objects.one(request.user, build_id)
    origin = Origin.objects.filter(build=build).select_related("brief").first()
    if origin is None:
        return schemas.MetBrief(brief_id=None, name="", changed=False, margins={})
    brief = check_model(BriefDocument, origin.brief.document)
    return schemas.MetBrief(
        brief_id=origin.brief_id,
        name=origin.brief.name,
        changed=origin.brief.document != origin.document,
        margins=meets(brief, payload),
    )


@router.post(
    "/builds/{build_id}/brief",
    response={201: schemas.BriefMade, **MISSING},
    tags=["matching"],
    operation_id="write_brief",
)
def write_brief_of(request: HttpRequest, build_id: UUID) -> Status[schemas.BriefMade]:
    """Write the brief of a build that has none: its vehicle, and what it does now as wishes."""
    return Status(201, schemas.BriefMade(id=write_brief(request.user, build_id).pk))


def _kept(
    request: HttpRequest, payload: schemas.BriefRequest, brief_id: UUID | None = None
) -> Brief:
    keep = keep_and_search if payload.search else keep_brief
    return keep(request.user, plain(payload.document), brief_id, payload.said)


def _answer(brief: Brief) -> schemas.BriefAnswer:
    document = check_model(BriefDocument, brief.document)
    return schemas.BriefAnswer(
        id=brief.pk,
        name=brief.name,
        changed_at=brief.changed_at,
        document=document,
        said=brief.said,
        weights=document.weights.model_dump(),
        match=_last(brief),
        builds=[
            schemas.BuildOf(id=origin.build_id, name=origin.build.name)
            for origin in Origin.objects.of_brief(brief)
        ],
    )


def _last(brief: Brief) -> schemas.MatchCard | None:
    found = brief.matches.first()
    return None if found is None else _card(found)


def _card(match: Match) -> schemas.MatchCard:
    return schemas.MatchCard(
        id=match.pk,
        brief_id=match.brief_id,
        state=match.state,
        considered=match.considered,
        to_solve=match.to_solve,
        solved=match.solved,
        feasible=match.feasible,
        problem=match.problem,
        made_at=match.made_at,
        ended_at=match.ended_at,
    )
