web: gunicorn metaspira_server.wsgi --chdir server --preload --no-control-socket --workers 4 --threads 2 --timeout 120 --umask 077 --forwarder-headers "" --forwarded-allow-ips "" --bind ${METASPIRA_BIND:-127.0.0.1:8000}
worker: nice -n 10 python server/manage.py run_huey
