"""Addresses: the API, recordings with seeking, sign-in, and the page for all that is left."""

from django.contrib.auth.views import LogoutView
from django.urls import path, re_path

from valley_web.accounts.views import PatientLoginView
from valley_web.common.page import show_page
from valley_web.config.api import api
from valley_web.keeping.sharing import show_shared
from valley_web.songs.views import stream_recording

urlpatterns = [
    path("api/", api.urls),
    path("recordings/<int:recording_id>", stream_recording, name="recording"),
    path("look/<str:token>", show_shared, name="look"),
    path("sign-in", PatientLoginView.as_view(), name="login"),
    path("sign-out", LogoutView.as_view(next_page="login"), name="logout"),
    re_path(r"^(?!api/|static/|recordings/|look/).*$", show_page, name="page"),
]
