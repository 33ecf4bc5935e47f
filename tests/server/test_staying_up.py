"""The real server with slow clients, and under a supervisor whose processes are killed."""

import contextlib
import os
import shutil
import signal
import socket
import sqlite3
import ssl
import subprocess
import threading
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import NamedTuple

import pytest

from tests.conftest import SPRING
from tests.running import (
    ROOT,
    call,
    children_of,
    end,
    environment,
    free_port,
    manage,
    serve,
    started,
    wait_for,
    web,
)  # fmt: skip

pytestmark = pytest.mark.processes


class Served(NamedTuple):
    port: int
    process: subprocess.Popen
    data: Path


@pytest.fixture(scope="module")
def served(tmp_path_factory):
    data = tmp_path_factory.mktemp("data")
    env = environment(data)
    manage("migrate", env)
    port = free_port()
    process = web(env, port)
    try:
        wait_for(f"http://127.0.0.1:{port}/api/session")
        yield Served(port, process, data)
    finally:
        end(process)


def drip(port, body, done):
    """A client that sends a byte a second: of its headers, or of its body."""
    head = b"PUT /api/designs HTTP/1.1\r\nHost: 127.0.0.1\r\n"
    with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port)) as client:
        client.sendall(head + (b"Content-Length: 100000\r\n\r\n{" if body else b"X-Slow: "))
        while not done.wait(1.0):
            client.sendall(b"x")


def test_slow_clients_hold_up_nobody(served):
    address, done = f"http://127.0.0.1:{served.port}/api/designs", threading.Event()
    there = call(address)
    clients = [
        threading.Thread(target=drip, args=(served.port, n % 2, done), daemon=True) for n in range(200)
    ]
    for client in clients:
        client.start()
    try:
        time.sleep(3)
        for _ in range(30):
            assert call(address, timeout=5) == there
    finally:
        done.set()


SLOW_TO_CURE = {
    "format": "metaspira/1",
    "path": {"kind": "coil", "diameter": 30, "turns": 4, "pitch": 8},
    "section": {"kind": "rectangle", "width": 6, "height": 6},
    "wires": [
        {
            "path": {"kind": "coil", "diameter": 29, "turns": 4.2, "pitch": 8},
            "section": {"kind": "round", "diameter": 2},
        }
    ],
}


def processor_seconds(process):
    """Of a server's workers so far, once it works no more."""
    spent, before = -1.0, -2.0
    while spent > before:
        time.sleep(0.5)
        stats = [
            Path(f"/proc/{one}/stat").read_text().rsplit(")")[1]
            for one in children_of(process.pid, "gunicorn")
        ]
        before, spent = spent, sum(int(stat.split()[11]) for stat in stats) / os.sysconf("SC_CLK_TCK")
    return spent


def test_a_search_for_remedies_ends_where_nobody_waits_for_it(served):
    address = f"http://127.0.0.1:{served.port}/api/parts/check"
    call(f"{address}?remedies=false", SLOW_TO_CURE)
    begun = processor_seconds(served.process)
    call(address, SLOW_TO_CURE, timeout=60)
    waited_for = processor_seconds(served.process) - begun
    with pytest.raises(TimeoutError):
        call(address, SLOW_TO_CURE, timeout=0.5)
    left = processor_seconds(served.process) - begun - waited_for
    assert left < 0.5 * waited_for


def test_writes_that_wait_hold_no_reader_up(served):
    """Another process holds the database's one writer; more saves than there are threads wait for it, and the
    shelf is read."""
    address = f"http://127.0.0.1:{served.port}/api/designs"
    design = call(address, {"recipe": SPRING})
    call(f"http://127.0.0.1:{served.port}/api/parts/check?remedies=false", SPRING)
    told: list[object] = []

    def save():
        try:
            told.append(call(address, {"recipe": SPRING}, timeout=60)["id"])
        except urllib.error.HTTPError as refusal:
            told.append(refusal.code)

    savers = [threading.Thread(target=save) for _ in range(60)]
    with sqlite3.connect(served.data / "metaspira.sqlite3", isolation_level=None) as database:
        database.execute("BEGIN IMMEDIATE")
        for saver in savers:
            saver.start()
        while not told:
            time.sleep(0.05)
        for _ in range(8):
            assert [row["id"] for row in call(address, timeout=60)] == [design["id"]]
        waiting = len(savers) - len(told)
        database.execute("ROLLBACK")
    for saver in savers:
        saver.join()
    assert waiting > 0
    assert set(told) - {503} == {one["id"] for one in call(address)} - {design["id"]}


def lives(pid):
    return (ROOT / f"/proc/{pid}").exists()


def test_what_dies_is_started_again(tmp_path):
    port = free_port()
    env = environment(tmp_path)
    manage("migrate", env)
    address = f"http://127.0.0.1:{port}"
    supervisor = serve(env, port)
    try:
        wait_for(f"{address}/api/session")
        design = call(f"{address}/api/designs", {"recipe": SPRING})["id"]
        for what in ("gunicorn", "run_huey"):
            (dead,) = children_of(supervisor.pid, what)
            orphans = children_of(dead, "")
            os.kill(dead, signal.SIGKILL)
            until = time.monotonic() + 60
            while children_of(supervisor.pid, what) in ([dead], []) or any(map(lives, orphans)):
                assert time.monotonic() < until, what
                time.sleep(0.2)
            wait_for(f"{address}/api/session")
        assert call(f"{address}/api/designs/{design}")["recipe"] == SPRING
        build = call(f"{address}/api/designs/{design}/builds", {"formats": [".stl"]})
        until = time.monotonic() + 120
        while build["state"] not in ("done", "failed") and time.monotonic() < until:
            time.sleep(0.5)
            build = call(f"{address}/api/jobs/{build['id']}")
        assert build["state"] == "done", build
    finally:
        end(supervisor)


@pytest.fixture
def proxied(tmp_path, served):
    """Port of the real nginx before the server, by the configuration that ships, with a certificate of its
    own."""
    nginx = shutil.which("nginx", path=f"/usr/sbin:{os.environ['PATH']}")
    assert nginx, "bin/test sets nginx up"
    port = free_port()
    key, certificate = tmp_path / "key.pem", tmp_path / "certificate.pem"
    made = [
        "openssl",
        "req",
        "-x509",
        "-newkey",
        "rsa:2048",
        "-nodes",
        "-subj",
        "/CN=springs.example",
        "-days",
        "2",
    ]
    subprocess.run([*made, "-keyout", key, "-out", certificate], check=True, capture_output=True)
    shipped = (ROOT / "deploy/nginx.conf").read_text()
    own = {
        "127.0.0.1:8000": f"127.0.0.1:{served.port}",
        "listen 443 ssl": f"listen 127.0.0.1:{port} ssl",
        "/etc/ssl/springs.example.pem": str(certificate),
        "/etc/ssl/springs.example.key": str(key),
    }
    for old, new in own.items():
        assert old in shipped
        shipped = shipped.replace(old, new)
    file = tmp_path / "nginx.conf"
    folders = "".join(
        f"{name}_temp_path {tmp_path / name};"
        for name in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    file.write_text(
        f"daemon off; pid {tmp_path / 'nginx.pid'}; error_log stderr; events {{ worker_connections 1024; }}\n"
        f"http {{ access_log off; {folders}\n{shipped}\n}}\n"
    )
    process = started([nginx, "-p", str(tmp_path), "-c", str(file)], environment(tmp_path))
    try:
        wait_for_port(port)
        yield port
    finally:
        end(process)


def wait_for_port(port):
    until = time.monotonic() + 20
    while time.monotonic() < until:
        with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port)):
            return
        time.sleep(0.1)
    raise AssertionError("nginx did not start")


def test_behind_nginx_slow_clients_hold_up_nobody(proxied):
    trusting = ssl.create_default_context()
    trusting.check_hostname, trusting.verify_mode = False, ssl.CERT_NONE

    def asked(address):
        request = urllib.request.Request(
            f"https://127.0.0.1:{proxied}{address}", headers={"Host": "localhost"}
        )
        with urllib.request.urlopen(request, timeout=5, context=trusting) as answer:
            return answer.status

    done = threading.Event()

    def slow():
        with (
            contextlib.suppress(OSError),
            socket.create_connection(("127.0.0.1", proxied)) as plain,
            trusting.wrap_socket(plain) as client,
        ):
            client.sendall(b"PUT /api/designs HTTP/1.1\r\nHost: localhost\r\nContent-Length: 100000\r\n\r\n")
            while not done.wait(1.0):
                client.sendall(b"x")

    for _ in range(200):
        threading.Thread(target=slow, daemon=True).start()
    try:
        time.sleep(3)
        assert {asked("/api/designs") for _ in range(30)} == {200}
        with pytest.raises(urllib.error.HTTPError) as hidden:
            asked("/metrics")
        assert hidden.value.code == 404
    finally:
        done.set()
