"""WSGI entry for a web server of one's own choice; Valley's is ``common.web_server``."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "valley_web.config.settings")
application = get_wsgi_application()
