"""The recording itself, with seeking."""

from django.http import Http404, HttpRequest, HttpResponseBase
from django.views.decorators.http import require_GET

from valley_web.common.ranges import serve_with_ranges
from valley_web.songs import storage
from valley_web.songs.models import Recording


@require_GET
def stream_recording(request: HttpRequest, recording_id: int) -> HttpResponseBase:
    recording = Recording.objects.filter(pk=recording_id, song__deleted_at=None).first()
    if recording is None:
        raise Http404
    path = storage.path_of(recording.stored_name)
    if not path.is_file():
        raise Http404
    return serve_with_ranges(path, recording.content_type, request.headers.get("Range"))
