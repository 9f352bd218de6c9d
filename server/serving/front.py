"""The server on loopback: takes connections and bodies, within bounds, and hands them on.

One thread reads all connections, so that one that sends slowly holds up nobody. What a body may
be is known from its header, before anything of it is kept.
"""

import json
import threading
import time
from collections.abc import Callable, Iterable
from typing import Any

import waitress
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.utilities import Error

from common.bounds import LARGEST_ARCHIVE, most_bytes
from serving.pool import MOST_WAITING, Pool
from serving.watch import Watch

THREADS = MOST_WAITING + 32
"""All who may wait for something heavy, and some for what is light."""

MOST_CONNECTIONS = 1000
SILENT_S, SENDING_S = 30, 120
"""Seconds that a connection may be silent, and that one request may take to be sent."""

Application = Callable[[dict[str, Any], Any], Iterable[bytes]]


class _Refused(Error):  # type: ignore[misc]
    """A refusal in the API's own form, for what never reaches the application."""

    def __init__(self, code: int, reason: str, what: str) -> None:
        super().__init__(what)
        self.code, self.reason = code, reason

    def to_response(self, ident: Any = None) -> tuple[str, list[tuple[str, str]], bytes]:
        body = json.dumps({"error": {"where": "request", "what": self.body}}).encode()
        headers = [("Content-Type", "application/json"), ("Cache-Control", "no-store")]
        return f"{self.code} {self.reason}", headers, body


class BoundedParser(HTTPRequestParser):  # type: ignore[misc]
    """Refuses a body that is too long for its address, and one that takes too long to come."""

    error: Any
    completed: bool

    def __init__(self, adj: Any) -> None:
        super().__init__(adj)
        self._begun = time.monotonic()
        self._most = LARGEST_ARCHIVE

    def parse_header(self, header_plus: bytes) -> None:
        """Read the header, and know from its address how much may follow."""
        super().parse_header(header_plus)
        self._most = most_bytes(self.path)

    def received(self, data: bytes) -> int:
        """Take what came; return how many bytes of it belonged to this request."""
        consumed: int = super().received(data)
        if self.error is not None and not isinstance(self.error, _Refused):
            error = self.error
            self.error = _Refused(error.code, error.reason, f"can't be read: {error.body}")
        if max(self.content_length, self.body_bytes_received) > self._most:
            self._refuse(413, "Content Too Large", f"may have {self._most:,} bytes here")
        elif not self.completed and time.monotonic() - self._begun > SENDING_S:
            self._refuse(408, "Request Timeout", f"was not sent within {SENDING_S} seconds")
        return consumed

    def _refuse(self, code: int, reason: str, what: str) -> None:
        self.error = _Refused(code, reason, what)
        self.completed = True
        self.expect_continue = False


class _Channel(HTTPChannel):  # type: ignore[misc]
    parser_class = BoundedParser


class Front:
    """The running server."""

    def __init__(
        self,
        application: Application,
        port: int,
        pool: Pool | None = None,
        watch: Watch | None = None,
    ) -> None:
        brought = {"young_torrent.pool": pool, "young_torrent.watch": watch}

        def with_more(environ: dict[str, Any], start: Any) -> Iterable[bytes]:
            return application({**environ, **brought}, start)

        self._server = waitress.create_server(
            with_more,
            host="127.0.0.1",
            port=port,
            threads=THREADS,
            ident="",
            clear_untrusted_proxy_headers=True,
            connection_limit=MOST_CONNECTIONS,
            channel_timeout=SILENT_S,
            cleanup_interval=10,
            asyncore_use_poll=True,
            max_request_body_size=LARGEST_ARCHIVE + 1,
            # So that it is seen when somebody who waits has gone.
            channel_request_lookahead=1,
            backlog=1024,
        )
        self._server.channel_class = _Channel
        self._thread = threading.Thread(target=self._server.run, daemon=True)

    @property
    def port(self) -> int:
        """The port that is listened at."""
        return int(self._server.effective_port)

    def start(self) -> None:
        """Answer from now on, in threads beside this one."""
        self._thread.start()

    def stop(self) -> None:
        """Let what is under way finish, for some seconds."""
        self._server.task_dispatcher.shutdown(timeout=5)
