"""Files with seeking: HTTP ranges as RFC 9110 has them, one range a request, which is what players send."""

import re
from collections.abc import Iterator
from pathlib import Path

from django.http import FileResponse, HttpResponse, HttpResponseBase, StreamingHttpResponse

_RANGE = re.compile(r"bytes=(\d*)-(\d*)$")
_CHUNK = 256 * 1024


def serve_with_ranges(path: Path, content_type: str, range_header: str | None) -> HttpResponseBase:
    """The whole file, the part asked for (206), or a refusal of a part that it has not (416)."""
    size = path.stat().st_size
    match = _RANGE.match(range_header or "")
    if not match or match[1] == match[2] == "":
        response: HttpResponseBase = FileResponse(path.open("rb"), content_type=content_type)
    else:
        start = int(match[1]) if match[1] else max(0, size - int(match[2]))
        end = min(int(match[2]), size - 1) if match[1] and match[2] else size - 1
        if start > end or start >= size:
            refused = HttpResponse(status=416)
            refused["Content-Range"] = f"bytes */{size}"
            return refused
        response = StreamingHttpResponse(_read(path, start, end), status=206, content_type=content_type)
        response["Content-Range"] = f"bytes {start}-{end}/{size}"
        response["Content-Length"] = str(end - start + 1)
    response["Accept-Ranges"] = "bytes"
    response["Cache-Control"] = "private, max-age=3600"
    return response


def _read(path: Path, start: int, end: int) -> Iterator[bytes]:
    with path.open("rb") as file:
        file.seek(start)
        left = end - start + 1
        while left > 0 and (chunk := file.read(min(_CHUNK, left))):
            left -= len(chunk)
            yield chunk
