"""Addresses: the API, recordings with seeking, sign-in, and the page for all that is left."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path, re_path

from valley_web.common.page import show_page
from valley_web.config.api import api
from valley_web.songs.views import stream_recording

urlpatterns = [
    path("api/", api.urls),
    path("recordings/<int:recording_id>", stream_recording, name="recording"),
    path("sign-in", LoginView.as_view(template_name="accounts/sign_in.html"), name="login"),
    path("sign-out", LogoutView.as_view(), name="logout"),
    re_path(r"^(?!api/|static/|recordings/).*$", show_page, name="page"),
]
