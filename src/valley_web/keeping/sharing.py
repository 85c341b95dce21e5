"""Links by which somebody without an account sees a song's page for viewers, until they are taken back."""

import secrets

from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from django.views.decorators.http import require_safe

from valley_web.common.errors import Gone, Refusal
from valley_web.common.framing import shut_in
from valley_web.lessons.services import make_handout
from valley_web.songs.deeds import note_deed
from valley_web.songs.models import ShareLink, Song

__all__ = ["ShareLink", "list_links", "make_link", "show_shared", "take_back"]


def list_links(song: Song) -> list[ShareLink]:
    return list(ShareLink.objects.filter(song=song, taken_back_at=None))


def make_link(song: Song, *, actor: str) -> ShareLink:
    """A new link, that nobody can guess. A page that cannot be made is told now, not to viewers later."""
    make_handout(song, "viewers.html")
    link = ShareLink.objects.create(song=song, token=secrets.token_urlsafe(24), actor=actor)
    note_deed("made a link for viewers", actor=actor, song=song)
    return link


def take_back(link_id: int, *, actor: str) -> None:
    link = ShareLink.objects.filter(pk=link_id, taken_back_at=None).select_related("song").first()
    if link is None:
        raise Gone("This link was taken back already.", "Open the page again.")
    link.taken_back_at = timezone.now()
    link.save(update_fields=["taken_back_at"])
    note_deed("took a link for viewers back", actor=actor, song=link.song)


@require_safe
def show_shared(request: HttpRequest, token: str) -> HttpResponse:
    """The page for viewers; what was taken back, and songs off the shelf, are not there."""
    link = ShareLink.objects.filter(token=token, taken_back_at=None, song__deleted_at=None).select_related("song").first()
    if link is None or not link.song.revision:
        raise Http404
    try:
        _, content_type, content = make_handout(link.song, "viewers.html")
    except Refusal as error:
        raise Http404 from error
    response = HttpResponse(content, content_type=content_type)
    response["Cache-Control"] = "private, no-store"  # taken back is taken back
    response["X-Robots-Tag"] = "noindex"
    return shut_in(request, response)
