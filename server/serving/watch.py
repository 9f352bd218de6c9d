"""Looks whether the database answers, so that who asks after the product's health need not wait."""

import threading
from typing import Any

import psycopg
from django.conf import settings

EVERY_S = 0.5


class Watch:
    """Whether the database answered a moment ago."""

    def __init__(self) -> None:
        self.database = False
        threading.Thread(target=self._look, daemon=True).start()

    def _look(self) -> None:
        pause = threading.Event()
        connection: psycopg.Connection | None = None
        while True:
            try:
                connection = connection or self._connect()
                connection.execute("select 1")
                self.database = True
            except psycopg.Error:
                self.database = False
                if connection is not None:
                    connection.close()
                    connection = None
            pause.wait(EVERY_S)

    def _connect(self) -> psycopg.Connection:
        known: dict[str, Any] = settings.DATABASES["default"]
        return psycopg.connect(
            host=known["HOST"],
            port=known["PORT"],
            dbname=known["NAME"],
            user=known["USER"],
            password=known["PASSWORD"],
            connect_timeout=2,
            autocommit=True,
            options="-c statement_timeout=1000",
        )
