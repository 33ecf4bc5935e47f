"""The WSGI application, with all that answers need loaded before the workers are forked."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver
from metaspira.warmup import warm_up

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "metaspira_server.settings")
application = get_wsgi_application()
get_resolver().check()
warm_up()
