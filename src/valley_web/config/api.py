"""The one API object: every app's router, one kind of authentication, one shape of error."""

from ninja import NinjaAPI

from valley_web.common.auth import OwnerAuth
from valley_web.common.problems import install_problem_handlers
from valley_web.common.strict import StrictParser
from valley_web.keeping.api.people import router as people_router
from valley_web.keeping.api.router import router as keeping_router
from valley_web.lessons.api.edits import router as edits_router
from valley_web.lessons.api.films import router as films_router
from valley_web.lessons.api.router import router as lessons_router
from valley_web.records.api.router import router as records_router
from valley_web.songs.api.listeners import router as listeners_router
from valley_web.songs.api.router import router as songs_router

api = NinjaAPI(title="Valley", version="1", auth=OwnerAuth(), docs_url=None, urls_namespace="api", parser=StrictParser())
install_problem_handlers(api)
api.add_router("", keeping_router)
api.add_router("", people_router)
api.add_router("", songs_router)
api.add_router("", listeners_router)
api.add_router("", edits_router)
api.add_router("", lessons_router)
api.add_router("", films_router)
api.add_router("", records_router)
