"""One visit after another, acted on at random, and everything that speaks of it compared.

Used by `tools.decision_study voice` and by the test of one voice, with their own seeds.
"""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime, timedelta
from random import Random
from typing import Any

from starlette.testclient import TestClient

from nudge.core.visit.calls import call_named

ACTS = 12
LINES = (
    "suct 108 liq 320 sl 56 ll 97 oa 86 ra 76 wb 63", "suct 120.6 liq 356 sl 51 ll 98 oa 88 ra 76",
    "suct 126 liq 400 sl 53 ll 95 oa 90 ra 76 wb 64 sa 57", "suct 113 liq 329 sl 53 ll 96.4",
    "suct 118 liq 345 sl 52 ll 96.3", "sl 58", "ll 101", "lli 96", "sa 61", "suct -4", "liq 560",
    "oa 58", "ra 66", "wb 63", "dl 231", "suct 341 liq 118", "cea 80", "suct 60 sl 74",
)  # fmt: skip
SEEN = (
    "filter_clean",
    "filter_dirty",
    "evaporator_coil_clean",
    "condenser_coil_clean",
    "condenser_coil_dirty",
    "condenser_fan_ok",
    "readings_confirmed",
    "condenser_wet",
    "condenser_dry",
    "circuit_never_opened",
    "standing_pressure_right",
    "collar_on",
    "oil_seen_at_joint",
    "bulb_test_no_reaction",
)
EVENTS = (
    "system_started",
    "filter_changed",
    "condenser_cleaned",
    "refrigerant_added",
    "collar_on",
    "collar_off",
    "system_stopped",
)
KINDS = ("read", "read", "read", "tick", "tick", "dose", "event", "wait", "wait", "correct", "undo")
FAULTS_OF_CHARGE = {"add": "undercharge", "find_leak": "undercharge", "remove": "overcharge"}


@dataclass
class Voice:
    """A Nudge with a clock that is moved by hand, and one visit on it at a time."""

    http: TestClient
    now: Callable[[], datetime]
    pass_minutes: Callable[[float], None]
    paper: Callable[[str], list[str]]
    """What the paper of a visit says of its verdict."""
    token: str = ""

    def begin(self, name: str, rng: Random, site: str) -> None:
        """A new system, a visit to it, and a link for a guest."""
        system = {
            "id": name,
            "site_id": site,
            "name": name,
            "refrigerant": "R-410A",
            "metering_device": rng.choice(("txv", "fixed_orifice", "eev")),
            "nominal_capacity": 36000,
            "rated_seer": 14,
            "target_subcooling": 10,
            "factory_charge": 6.6,
        }
        self._write("systems", system)
        self._write("visits", {"id": name, "system_id": name})
        link = self.http.post(f"/api/visits/{name}/links", json={}).json()
        self.token = link["path"].removeprefix("/look/")

    def act(self, name: str, number: int, rng: Random) -> str:
        """One act from one of two windows, each with its own idea of the time."""
        act_id = f"{name}-{number}"
        then = (self.now() - timedelta(minutes=rng.choice((0, 0, 0, 4)))).isoformat()
        kind, path = rng.choice(KINDS), f"visits/{name}"
        if kind == "read":
            self._write(
                f"{path}/callouts", {"id": act_id, "text": rng.choice(LINES), "heard_at": then}
            )
        elif kind == "tick":
            self._write(
                f"{path}/observations",
                {"id": act_id, "key": rng.choice(SEEN), "seen": rng.random() < 0.85},
            )
        elif kind in ("event", "dose"):
            what = "refrigerant_added" if kind == "dose" else rng.choice(EVENTS)
            body: dict[str, Any] = {"id": act_id, "kind": what, "happened_at": then}
            if what == "refrigerant_added":
                body["amount"] = rng.choice((0.5, 3, 6.5, 20))
            self._write(f"{path}/events", body)
        elif kind == "wait":
            self.pass_minutes(rng.choice((2, 7, 16, 40)))
        elif kind == "correct":
            readings = self._read(path)["readings"]
            if readings:
                row = rng.choice(readings)
                self._write(
                    f"{path}/corrections",
                    {"id": act_id, "reading_id": row["id"], "text": f"{row['value'] + 1:.1f}"},
                )
        else:
            self._write(f"{path}/withdrawals", {"id": act_id})
        return kind

    def contradictions(self, name: str) -> list[str]:
        """Everything that says something else than the decision."""
        visit = self._read(f"visits/{name}")
        if visit["assessment"] is None:
            return []
        decision, charge = visit["assessment"]["decision"], visit["assessment"]["charge"]
        card, order = self._read(f"visits/{name}/nudge"), self._read(f"visits/{name}/order")
        guest = self._read(f"guest/{self.token}")["visit"]["assessment"]["decision"]
        today = self._read("today")["under_way"]
        line = next(one for one in today if one["id"] == name)
        moves = decision["advice"] in ("add", "remove")
        said_and_meant: list[tuple[str, Any, Any]] = [
            *(
                (f"charge.{key}", charge[key], decision[key])
                for key in ("state", "advice", "headline", "reason")
            ),
            ("card moves", card["action"] in ("add", "remove"), moves),
            ("card's decision", card["assessment"]["decision"]["key"], decision["key"]),
            ("card's moment", card["ready_at"], decision["ready_at"]),
            ("dose", decision["dose"] is not None, moves),
            ("guest", guest, decision),
            (
                "today",
                (line["headline"], line["advice"]),
                (decision["headline"], decision["advice"]),
            ),
            ("paper", self.paper(name)[:2], [decision["headline"], decision["reason"]]),
        ]
        if moves:
            said_and_meant += [
                ("card's amount", card["amount"], abs(decision["dose"]["amount"])),
                ("card's way", card["action"], decision["advice"]),
            ]
        if decision["stage"] in call_named("").stages:
            said_and_meant.append(("rail", order["here"], decision["stage"]))
        suspects = visit["assessment"]["suspects"]
        wants = FAULTS_OF_CHARGE.get(decision["advice"])
        if wants and suspects and not visit["doses"]:
            said_and_meant.append(("its leading suspect", suspects[0]["fault"], wants))
        if decision["key"] == "right" and not visit["doses"]:
            leads = suspects[0]["fault"] if suspects[0]["belief"] >= 0.5 else ""
            said_and_meant.append(("left alone", leads in ("undercharge", "overcharge"), False))
        return [
            f"{who}: {said!r}, not {meant!r}"
            for who, said, meant in said_and_meant
            if said != meant
        ]

    def _read(self, path: str) -> Any:
        return self.http.get(f"/api/{path}").json()

    def _write(self, path: str, body: dict[str, Any]) -> None:
        self.http.post(f"/api/{path}", json=body)  # what is refused changes nothing: that is fine
