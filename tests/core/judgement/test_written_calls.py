"""Every written call is judged as a master technician would judge it."""

import tomllib
import unittest
from pathlib import Path
from typing import Any

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.language.callout.parser import parse_callout
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate, ReversingValve
from nudge.core.physics.circuit.past import Moment, Past

CALLS = tomllib.loads((Path(__file__).parent / "written_calls.toml").read_text("utf-8"))["call"]
MINUTES = 40.0


def called_out(line: str) -> dict[str, float]:
    heard = parse_callout(line, "ip")
    if heard.misheard:
        raise ValueError(f"{line}: {[m.message for m in heard.misheard]}")
    return {spoken.point.key: spoken.value_si for spoken in heard.spoken}


def _kelvin(fahrenheit: float | None) -> float | None:
    return None if fahrenheit is None else fahrenheit / 1.8


def judged(call: dict[str, Any]) -> Assessment:
    system = call["system"]
    target = system.get("target")
    plate = Plate(
        system["fluid"],
        MeteringDevice(system["device"]),
        rated_seer=system["seer"],
        target_subcooling_k=_kelvin(target),
        nominal_capacity_w=system.get("capacity", 36_000) * 0.29307,
        reversing_valve=ReversingValve(system.get("reversing_valve", "")),
        approach_k=_kelvin(system.get("approach")),
        condensing_over_ambient_k=_kelvin(system.get("over_ambient")),
    )
    readings = called_out(call["readings"])
    earlier = call.get("earlier")
    moments = (Moment(40, called_out(earlier)),) if earlier else ()
    past = Past(
        moments,
        call.get("added", 0) * 0.0283495,
        "",
        call.get("hunting"),
        call.get("additions", 0),
        call.get("recovered"),
        call.get("weighed_in", False),
        call.get("proven_tight", False),
    )
    guessed = frozenset(readings) if call.get("estimated") else frozenset()
    seen = frozenset(call["seen"].split())
    ran = call.get("minutes", MINUTES)
    context = Context(None if ran < 0 else ran, MINUTES, seen, estimated=guessed, past=past)
    return assess(plate, readings, context)


class WrittenCallsTest(unittest.TestCase):
    def test_there_are_enough_and_each_says_why(self):
        self.assertGreaterEqual(len(CALLS), 106)
        self.assertEqual(len({call["story"] for call in CALLS}), len(CALLS))
        for call in CALLS:
            self.assertRegex(call["why"], r"^[A-Z].*\.$")

    def test_each_is_judged_as_written(self):
        for call in CALLS:
            with self.subTest(call["story"]):
                result = judged(call)
                names = [belief.suspect.key for belief in result.suspects]
                first = names[: len(call["leads"])]
                if len(call["leads"]) > 2:
                    self.assertIn(names[0], call["leads"], first)
                else:
                    self.assertCountEqual(first, call["leads"], names[:4])
                self.assertEqual(result.decision.advice, call["advice"], result.decision.reason)
                if "hangs_on" in call:
                    self.assertEqual(result.decision.hangs_on.key, call["hangs_on"])


if __name__ == "__main__":
    unittest.main()
