"""Devices of a shop: paired by a code that works once, known by a token, let go at once.

The token is in the device's cookie alone; what is kept is its salted scrypt hash. A token is
checked by scrypt once and then known by a plain hash in memory, so that asking costs nothing.
"""

import hmac
import os
from collections import deque
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from hashlib import scrypt, sha256
from secrets import randbelow, token_urlsafe
from threading import Lock
from time import monotonic
from types import MappingProxyType

from nudge.core.language.errors import CoreError, UnknownName
from nudge.services.clock import Clock
from nudge.services.errors import NotFound
from nudge.store.database import Database
from nudge.store.repositories import devices
from nudge.store.tables import PairedDevice

CODE_DIGITS, CODE_LIVES = 8, timedelta(minutes=10)
MOST_WRONG = 5
"""Wrong codes after which the one that was shown is void: a new one is made on the machine."""
TRIES, TRIES_IN_S = 10, 60.0
"""Tries of one address within so many seconds; more are refused unheard."""
LONGEST_NAME, MOST_DEVICES = 40, 100
FRESH_S = 0.5
"""How old what is known of the devices may be: one that is let go is out within it."""
SEEN_EVERY = timedelta(minutes=5)
_COST, _BLOCK, _WIDE = 2**14, 8, 1


@dataclass(frozen=True, slots=True)
class Role:
    """What a device may do."""

    key: str
    label: str
    reason: str


ROLES: Mapping[str, Role] = MappingProxyType(
    {
        row.key: row
        for row in (
            Role("technician", "Technician", "Does everything but let devices in and replace all."),
            Role("office", "Office", "Reads everything and leaves notes; changes no measurement."),
        )
    }
)


class NotPaired(CoreError):
    """The code is wrong, used, or too old: the three look alike from outside."""

    def __init__(self) -> None:
        super().__init__(
            "code",
            "That code does not open Nudge: wrong, used, or over ten minutes old. Make a new one "
            "on the machine Nudge runs on, under Workshop.",
        )


class TooManyTries(CoreError):
    """Somebody guesses."""

    def __init__(self) -> None:
        super().__init__("code", "Too many tries. Wait a minute, then look at the code again.")


@dataclass(frozen=True, slots=True)
class PairingCode:
    """A code as it is shown, on the machine itself alone."""

    text: str
    role: str
    ends_at: datetime


@dataclass(frozen=True, slots=True)
class Paired:
    """A device that may come in."""

    id: str
    name: str
    role: str


class Devices:
    """The use cases of pairing."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock
        self._lock = Lock()
        self._code: PairingCode | None = None
        self._wrong = 0
        self._tries: dict[str, deque[float]] = {}
        self._proved: dict[str, str] = {}
        self._known: tuple[float, dict[str, PairedDevice]] = (float("-inf"), {})

    def new_code(self, role: str = "technician") -> PairingCode:
        """A code for one device; the one before it is void. Raises: UnknownName."""
        if role not in ROLES:
            raise UnknownName("role", role, ROLES)
        text = f"{randbelow(10**CODE_DIGITS):0{CODE_DIGITS}d}"
        with self._lock:
            self._wrong = 0
            self._code = PairingCode(text, role, self._clock() + CODE_LIVES)
            return self._code

    def pair(self, code: str, name: str, address: str) -> str:
        """Let a device in under a name; its token, told this once.

        Raises: TooManyTries; NotPaired; CoreError, for a name that is none.
        """
        self._count_try(address)
        shown = " ".join(name.split())
        if not 0 < len(shown) <= LONGEST_NAME:
            raise CoreError("name", f"Name this device, in at most {LONGEST_NAME} letters.")
        role = self._spend(code)
        device_id, secret = token_urlsafe(9).replace(".", "-"), token_urlsafe(32)
        now = self._clock()
        with self._database.writing() as session:
            if len(devices.living(session)) >= MOST_DEVICES:
                raise CoreError("device", f"{MOST_DEVICES} devices are paired. Let one go first.")
            session.add(
                PairedDevice(
                    id=device_id,
                    name=shown,
                    role=role,
                    token_hash=_hashed(secret, os.urandom(16)),
                    paired_at=now,
                    seen_at=now,
                    revoked_at=None,
                )
            )
        self._forget()
        return f"{device_id}.{secret}"

    def known(self, token: str) -> Paired | None:
        """The device a token belongs to; None for one that is wrong or was let go."""
        device_id, _, secret = token.partition(".")
        row = self._living().get(device_id)
        if row is None or not secret:
            return None
        seen = sha256(token.encode("utf-8", "replace")).hexdigest()
        if self._proved.get(seen) != device_id:
            if not _matches(secret, row.token_hash):
                return None
            with self._lock:
                self._proved[seen] = device_id
        self._note_seen(row)
        return Paired(row.id, row.name, row.role)

    def all(self) -> list[PairedDevice]:
        """Every device that may come in, the newest first."""
        return sorted(self._living().values(), key=lambda row: row.paired_at, reverse=True)

    def let_go(self, device_id: str) -> None:
        """A device is out at once, and its name stays on what it wrote. Raises: NotFound."""
        with self._database.writing() as session:
            row = devices.device(session, device_id)
            if row is None:
                raise NotFound("device", device_id)
            row.revoked_at = row.revoked_at or self._clock()
        self._forget()

    def _spend(self, code: str) -> str:
        """The role a code gives; it works once. Raises: NotPaired."""
        given = "".join(letter for letter in code if letter.isdecimal())
        with self._lock:
            shown = self._code
            is_right = shown is not None and hmac.compare_digest(
                given.encode(), shown.text.encode()
            )
            if shown is None or not is_right or self._clock() > shown.ends_at:
                self._wrong += 1
                if self._wrong >= MOST_WRONG:
                    self._code = None
                raise NotPaired
            self._code = None
            return shown.role

    def _count_try(self, address: str) -> None:
        now = monotonic()
        with self._lock:
            tries = self._tries.setdefault(address, deque())
            while tries and now - tries[0] > TRIES_IN_S:
                tries.popleft()
            if len(tries) >= TRIES:
                raise TooManyTries
            tries.append(now)
            if len(self._tries) > 1000:
                self._tries = {key: found for key, found in self._tries.items() if found}

    def _living(self) -> dict[str, PairedDevice]:
        read_at, rows = self._known
        if monotonic() - read_at > FRESH_S:
            with self._database.reading() as session:
                rows = {row.id: row for row in devices.living(session)}
            self._known = (monotonic(), rows)
        return rows

    def _forget(self) -> None:
        self._known = (float("-inf"), {})

    def _note_seen(self, row: PairedDevice) -> None:
        now = self._clock()
        if now - row.seen_at < SEEN_EVERY:
            return
        with self._database.writing() as session:
            kept = devices.device(session, row.id)
            if kept is not None:
                kept.seen_at = now
        self._forget()


def _hashed(secret: str, salt: bytes) -> str:
    made = scrypt(secret.encode(), salt=salt, n=_COST, r=_BLOCK, p=_WIDE)
    return f"{salt.hex()}:{made.hex()}"


def _matches(secret: str, kept: str) -> bool:
    salt = bytes.fromhex(kept.partition(":")[0])
    return hmac.compare_digest(_hashed(secret, salt), kept)
