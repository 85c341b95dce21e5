"""The one HTML page, built by Vite; its routes live in the browser."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie


@never_cache
@ensure_csrf_cookie
def show_page(request: HttpRequest) -> HttpResponse:
    index = settings.FRONTEND_DIR / "index.html"
    if not index.is_file():
        return HttpResponse("The front end is not built yet; run: make build", status=503, content_type="text/plain")
    return HttpResponse(index.read_bytes(), content_type="text/html; charset=utf-8")
