"""What every answer says to the browser: whose scripts run, who may frame it, what it may keep."""

from collections.abc import Mapping
from types import MappingProxyType

from starlette.types import ASGIApp, Message, Receive, Scope, Send

POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        # The parts of a page that are placed by script get their places as inline styles.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)
ALWAYS: Mapping[str, str] = MappingProxyType(
    {
        "Content-Security-Policy": POLICY,
        "X-Content-Type-Options": "nosniff",
        "Referrer-Policy": "no-referrer",
        "Cross-Origin-Opener-Policy": "same-origin",
        "Cross-Origin-Resource-Policy": "same-origin",
    }
)
PRIVATE = "no-store"
"""A shop's numbers are nobody's cache's."""


class SafeHeaders:
    """ASGI middleware: `ALWAYS` on every answer, `no-store` on every answer of the API."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        is_private = scope["path"].startswith("/api/")

        async def said(message: Message) -> None:
            if message["type"] == "http.response.start":
                headers = [
                    (name, value)
                    for name, value in message["headers"]
                    if not (is_private and name.lower() == b"cache-control")
                ]
                headers += [(k.encode(), v.encode()) for k, v in ALWAYS.items()]
                if is_private:
                    headers.append((b"cache-control", PRIVATE.encode()))
                message = {**message, "headers": headers}
            await send(message)

        await self._app(scope, receive, said)
