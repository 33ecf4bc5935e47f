web: gunicorn metaspira_server.wsgi --chdir server --preload --workers 2 --threads 4 --timeout 120 --bind ${METASPIRA_BIND:-127.0.0.1:8000}
worker: python server/manage.py run_huey
