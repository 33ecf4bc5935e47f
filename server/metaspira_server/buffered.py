"""Gunicorn's worker that hands a request on once all of it is there, so that clients which send slowly hold
up nobody.

Gunicorn forks, watches and ends the workers; waitress reads the requests of each in one loop and answers them
in threads.
"""

from __future__ import annotations

import os
import signal
import threading
import time
from typing import Any

from gunicorn.workers.base import Worker
from waitress.server import create_server

_CONNECTIONS = 1000
_IDLE_SECONDS = 60
_BEAT_SECONDS = 1.0
_HEAD_BYTES = 32_768
_READ_AHEAD = 1
"""Requests read while another is answered: without it a client that left would not be noticed."""


class BufferedWorker(Worker):  # type: ignore[misc]
    """A worker with `threads` threads for answers."""

    def run(self) -> None:
        """Serve until told to stop."""
        from django.conf import settings

        server: Any = create_server(
            self.wsgi,
            sockets=[one.sock for one in self.sockets],
            threads=self.cfg.threads,
            connection_limit=_CONNECTIONS,
            channel_timeout=_IDLE_SECONDS,
            cleanup_interval=5,
            channel_request_lookahead=_READ_AHEAD,
            max_request_header_size=_HEAD_BYTES,
            max_request_body_size=settings.MOST_UPLOAD,
            asyncore_use_poll=True,
            clear_untrusted_proxy_headers=False,
            ident=None,
        )
        threading.Thread(target=self._beat, daemon=True).start()
        server.run()

    def _beat(self) -> None:
        """Tell the master that this worker lives, and end with the master."""
        while self.alive:
            self.notify()
            if os.getppid() != self.ppid:
                os.kill(os.getpid(), signal.SIGTERM)
                return
            time.sleep(_BEAT_SECONDS)

    def handle_exit(self, sig: int, frame: Any) -> None:
        """Leave the loop; waitress then ends its threads."""
        self.alive = False
        raise SystemExit(0)

    def handle_quit(self, sig: int, frame: Any) -> None:
        """Leave at once."""
        self.handle_exit(sig, frame)
