"""A connection that says nothing is let go: HTTP by uvicorn, with an end to its waiting."""

import asyncio

from uvicorn.protocols.http.h11_impl import H11Protocol

HEAD_S = 15.0
"""How long a new connection may take to send the head of its first request."""
MOST_CONNECTIONS = 400
"""More are answered 503 at once."""


class PatientProtocol(H11Protocol):
    """Closes a connection whose first request has no whole head after `HEAD_S`."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        self._waiting = self.loop.call_later(HEAD_S, self._give_up)

    def connection_lost(self, exc: Exception | None) -> None:
        self._waiting.cancel()
        super().connection_lost(exc)

    def _give_up(self) -> None:
        if self.cycle is None and not self.transport.is_closing():
            self.transport.close()
