"""The server on loopback: bounds before anything is kept, slow senders hold up nobody."""

import json
import socket
import time
from collections.abc import Iterable
from typing import Any

import pytest

import serving.front
from serving.front import Front


def application(environ: dict[str, Any], start: Any) -> Iterable[bytes]:
    length = len(environ["wsgi.input"].read())
    start("200 OK", [("Content-Type", "text/plain")])
    return [f"{environ['PATH_INFO']} {length}".encode()]


@pytest.fixture
def front():
    made = Front(application, port=0)
    made.start()
    yield made
    made.stop()


def connected(front: Front) -> socket.socket:
    return socket.create_connection(("127.0.0.1", front.port), timeout=10)


def head(path: str, length: int) -> bytes:
    return (
        f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {length}\r\n"
        "Connection: close\r\n\r\n"
    ).encode()


def told(connection: socket.socket) -> tuple[int, bytes]:
    with connection, connection.makefile("rb") as answer:
        status = int(answer.readline().split()[1])
        return status, answer.read().partition(b"\r\n\r\n")[2]


@pytest.mark.parametrize(
    ("path", "most"),
    [
        ("/api/solve", 2_000_000),
        ("/api/shelf/bring-in/motors", 100_000_000),
        ("/api/archive", 1_000_000_000),
    ],
)
def test_a_body_too_long_for_its_address_is_refused_by_its_header(front, path, most):
    connection = connected(front)
    connection.sendall(head(path, most + 1))
    # Nothing of the body was sent.
    status, body = told(connection)
    assert status == 413
    assert json.loads(body)["error"]["what"] == f"may have {most:,} bytes here"


def test_a_body_of_unknown_length_is_refused_when_it_has_grown_too_long(front):
    connection = connected(front)
    connection.sendall(b"POST /api/solve HTTP/1.1\r\nTransfer-Encoding: chunked\r\n\r\n")
    for piece in [b"x" * 100_000] * 20 + [b"x"]:
        connection.sendall(b"%x\r\n%s\r\n" % (len(piece), piece))
    assert told(connection)[0] == 413


def test_many_half_sent_requests_hold_up_nobody(front):
    half = [connected(front) for _ in range(300)]
    for connection in half:
        connection.sendall(head("/api/solve", 1000) + b"{")
    whole = connected(front)
    whole.sendall(head("/api/solve", 2) + b"{}")
    assert told(whole) == (200, b"/api/solve 2")
    half[0].sendall(b"x" * 999)
    assert told(half[0]) == (200, b"/api/solve 1000")
    for connection in half[1:]:
        connection.close()


def test_a_request_that_takes_too_long_to_come_is_ended(front, monkeypatch):
    monkeypatch.setattr(serving.front, "SENDING_S", 0.2)
    connection = connected(front)
    connection.sendall(head("/api/solve", 100))
    for _ in range(20):
        try:
            connection.sendall(b"x")
        except OSError:
            break
        time.sleep(0.05)
    status, body = told(connection)
    assert (status, json.loads(body)["error"]["where"]) == (408, "request")


def test_what_is_no_request_is_refused_in_the_form_of_the_api(front):
    connection = connected(front)
    connection.sendall(b"POST /api/solve HTTP/1.1\r\nContent-Length: many\r\n\r\n")
    status, body = told(connection)
    assert (status, json.loads(body)["error"]["where"]) == (400, "request")
