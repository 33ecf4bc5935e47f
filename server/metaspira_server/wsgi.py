"""The WSGI application."""

import os

from django.core.wsgi import get_wsgi_application
from metaspira.warming import warm_up

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "metaspira_server.settings")
application = get_wsgi_application()
warm_up()
