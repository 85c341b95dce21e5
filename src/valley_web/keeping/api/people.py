"""Accounts: made and shut out by the owner, one's own password, and links by which viewers see a song without one."""

from datetime import datetime

from django.contrib.auth import update_session_auth_hash
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from valley_web.accounts import people
from valley_web.common.auth import name_actor
from valley_web.common.problems import Problem
from valley_web.keeping import sharing
from valley_web.songs.deeds import note_deed
from valley_web.songs.selectors import get_song

router = Router()
PROBLEMS = {frozenset({400, 403, 404, 409, 422}): Problem}


class PersonOut(Schema):
    name: str
    owner: bool
    active: bool
    last_here: datetime | None


class PeopleOut(Schema):
    """``own``: may the one who asks make and shut out others."""

    own: bool
    people: list[PersonOut]


class PersonIn(Schema):
    name: str = Field(min_length=1, max_length=150)
    password: str = Field(min_length=1, max_length=200)
    owner: bool = False


class PersonChangeIn(Schema):
    """``active``: may sign in; ``password``: a new one, set by the owner."""

    active: bool | None = None
    password: str = Field("", max_length=200)


class OwnPasswordIn(Schema):
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class ShareLinkOut(Schema):
    id: int
    address: str
    made: datetime
    actor: str


@router.get("/people", response=PeopleOut)
def list_people(request: HttpRequest) -> PeopleOut:
    """Who may sign in."""
    return PeopleOut(own=people.is_owner(request), people=[PersonOut.from_orm(p) for p in people.list_people()])


@router.post("/people", response={201: PersonOut, **PROBLEMS})
def add_person(request: HttpRequest, body: PersonIn) -> Status[PersonOut]:
    """A new account; the first is an owner's."""
    people.require_owner(request)
    person = people.add_person(body.name, body.password, owner=body.owner)
    note_deed(f"made an account for “{person.name}”", actor=name_actor(request))
    return Status(201, PersonOut.from_orm(person))


@router.patch("/people/{name}", response={204: None, **PROBLEMS})
def change_person(request: HttpRequest, name: str, body: PersonChangeIn) -> tuple[int, None]:
    """Shut an account out, let it in again, or give it another password."""
    people.require_owner(request)
    people.require_known(name)
    if body.password:
        people.set_password(name, body.password, old=None)
        note_deed(f"gave “{name}” another password", actor=name_actor(request))
    if body.active is not None:
        (people.let_in if body.active else people.shut_out)(name)
        note_deed(f"{'let' if body.active else 'shut'} “{name}” {'in again' if body.active else 'out'}", actor=name_actor(request))
    return 204, None


@router.post("/own-password", response={204: None, **PROBLEMS})
def change_own_password(request: HttpRequest, body: OwnPasswordIn) -> tuple[int, None]:
    """One's own password; one stays signed in here, and nowhere else."""
    user = people.require_signed_in(request)
    people.set_password(user.get_username(), body.new, old=body.old)
    user.refresh_from_db()
    update_session_auth_hash(request, user)
    return 204, None


def _link(request: HttpRequest, link: sharing.ShareLink) -> ShareLinkOut:
    return ShareLinkOut(id=link.pk, address=request.build_absolute_uri(f"/look/{link.token}"), made=link.made_at, actor=link.actor)


@router.get("/songs/{song_id}/share-links", response={200: list[ShareLinkOut], **PROBLEMS})
def list_links(request: HttpRequest, song_id: int) -> list[ShareLinkOut]:
    """Links by which viewers see this song's page."""
    return [_link(request, link) for link in sharing.list_links(get_song(song_id))]


@router.post("/songs/{song_id}/share-links", response={201: ShareLinkOut, **PROBLEMS})
def make_link(request: HttpRequest, song_id: int) -> Status[ShareLinkOut]:
    """A link that needs no account; it shows the page for viewers, and nothing else."""
    return Status(201, _link(request, sharing.make_link(get_song(song_id), actor=name_actor(request))))


@router.delete("/share-links/{link_id}", response={204: None, **PROBLEMS})
def take_back_link(request: HttpRequest, link_id: int) -> tuple[int, None]:
    """The link leads nowhere from now on."""
    sharing.take_back(link_id, actor=name_actor(request))
    return 204, None
