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
    is_open: bool = False
    """Other machines may do everything, not only follow links to visits."""
    hosts: tuple[str, ...] = ()
    """Names it answers to besides this machine's own."""

    @property
    def listens_beyond(self) -> bool:
        """Whether other machines can reach it at all."""
        return self.host not in ("127.0.0.1", "localhost", "::1")

    @staticmethod
    def from_environment() -> "Settings":
        """`NUDGE_DATA` (default ./data), `HOST` (127.0.0.1), `PORT` (8000), `NUDGE_OPEN`,
        `NUDGE_HOSTS` (names apart by commas).

        Raises: SystemExit, for a port that is not one.
        """
        port = os.environ.get("PORT", "8000")
        if not port.isdecimal() or not 0 < int(port) < 65536:
            raise SystemExit(f"PORT is “{port}”. Set it to a number from 1 to 65535.")
        return Settings(
            Path(os.environ.get("NUDGE_DATA", "data")).expanduser().resolve(),
            os.environ.get("HOST", "127.0.0.1"),
            int(port),
            os.environ.get("NUDGE_OPEN", "") == "1",
            tuple(h.strip() for h in os.environ.get("NUDGE_HOSTS", "").split(",") if h.strip()),
        )
