"""Settings, all from the environment."""

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True, slots=True)
class Settings:
    """Where the data lives and where the server listens."""

    data_folder: Path
    host: str
    port: int
    hosts: tuple[str, ...] = ()
    """Names it answers to besides this machine's own."""

    tls: tuple[Path, Path] | None = None
    """A certificate and its key, where one's own are given."""

    @property
    def listens_beyond(self) -> bool:
        """Whether other machines can reach it at all."""
        return self.host not in ("127.0.0.1", "localhost", "::1")

    @staticmethod
    def from_environment() -> "Settings":
        """`NUDGE_DATA` (default ./data), `HOST` (127.0.0.1), `PORT` (8000),
        `NUDGE_HOSTS` (names apart by commas), `NUDGE_TLS_CERT` and `NUDGE_TLS_KEY` (both or none).

        Raises: SystemExit, for a port that is not one, or half a certificate.
        """
        given = [os.environ.get(name, "") for name in ("NUDGE_TLS_CERT", "NUDGE_TLS_KEY")]
        if any(given) and not all(given):
            raise SystemExit("NUDGE_TLS_CERT and NUDGE_TLS_KEY go together. Set both, or neither.")
        certificate, key = (Path(name).expanduser().resolve() for name in given)
        missing = next((p for p in (certificate, key) if any(given) and not p.is_file()), None)
        if missing is not None:
            raise SystemExit(f"There is no file {missing}. Look at NUDGE_TLS_CERT, NUDGE_TLS_KEY.")
        port = os.environ.get("PORT", "8000")
        if not port.isdecimal() or not 0 < int(port) < 65536:
            raise SystemExit(f"PORT is “{port}”. Set it to a number from 1 to 65535.")
        return Settings(
            Path(os.environ.get("NUDGE_DATA", "data")).expanduser().resolve(),
            os.environ.get("HOST", "127.0.0.1"),
            int(port),
            tuple(h.strip() for h in os.environ.get("NUDGE_HOSTS", "").split(",") if h.strip()),
            (certificate, key) if any(given) else None,
        )
