"""No path advises adding unless measured evidence isolates low charge: swept at random.

Plates of every school, charts with gaps, blower tables, impossible readings, any subset of
points. Whatever comes, `add` may stand only beside the evidence it needs.
"""

import random
import unittest

from nudge.core.behaviours.case import Context
from nudge.core.judgement.assess import Assessment, assess
from nudge.core.language.errors import CoreError
from nudge.core.physics.chart.chart import KINDS
from nudge.core.physics.chart.chart_text import read_chart
from nudge.core.physics.circuit.equipment import Application, MeteringDevice, Plate
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.targets.choose import methods_for_charge
from tests.core.field import celsius, readings

CASES = 4_000
SEEN = (
    "filter_clean",
    "filter_dirty",
    "evaporator_coil_clean",
    "condenser_coil_clean",
    "condenser_coil_dirty",
    "condenser_fan_ok",
    "airflow_ok",
    "ice_on_coil",
    "oil_seen_at_joint",
    "blower_capacitor_weak",
    "sight_glass_bubbles",
)
OPPOSITES = (("filter_clean", "filter_dirty"), ("condenser_coil_clean", "condenser_coil_dirty"))


def _plate(chance: random.Random) -> Plate:
    kinds = [kind for kind in KINDS.values() if chance.random() < 0.3]
    return Plate(
        chance.choice(["R-410A", "R-22", "R-454B", "R-407C", "R-32"]),
        chance.choice(list(MeteringDevice)),
        chance.choice([Application.COMFORT_COOLING] * 6 + list(Application)),
        nominal_capacity_w=chance.choice([None, 10_551.0]),
        target_subcooling_k=chance.choice([None, None, 5.5]),
        target_superheat_k=chance.choice([None, None, 6.0]),
        approach_k=chance.choice([None, None, 4.0]),
        condensing_over_ambient_k=chance.choice([None, 11.0]),
        indoor_unit=chance.choice(["", "coil A", "coil X"]),
        blower_tap=chance.choice(["", "low", "high"]),
        charts=tuple(read_chart(kind.key, kind.example, "ip") for kind in kinds),
    )


def _readings(chance: random.Random) -> dict[str, float]:
    low = chance.uniform(60, 160)
    high = chance.uniform(180, 480)
    spoken = {
        "suct": low,
        "liq": high,
        "sl": chance.uniform(25, 90),
        "ll": chance.uniform(70, 125),
        "oa": chance.uniform(40, 115),
        "ra": chance.uniform(60, 90),
        "wb": chance.uniform(48, 78),
        "sa": chance.uniform(45, 75),
        "lli": chance.uniform(65, 120),
        "eo": chance.uniform(25, 80),
        "cfm": chance.uniform(400, 2000),
        "dl": chance.uniform(100, 240),
    }
    kept = {key: value for key, value in spoken.items() if chance.random() < 0.8}
    return readings(**(kept or {"oa": spoken["oa"]}))


def _lowish(chance: random.Random, plate: Plate) -> dict[str, float]:
    """Readings of a system that may well be low, some of them pushed out of line."""
    table = load_table(plate.refrigerant)
    boils, outdoors = chance.uniform(33, 46), chance.uniform(72, 98)
    condenses = outdoors + chance.uniform(8, 22)
    spoken = {
        "suct": table.dew.pressure(celsius(boils)) / 6.894757 - 14.7,
        "liq": table.bubble.pressure(celsius(condenses)) / 6.894757 - 14.7,
        "sl": boils + chance.uniform(4, 30),
        "ll": condenses - chance.uniform(-1, 9),
        "oa": outdoors,
        "ra": chance.uniform(69, 80),
        "wb": chance.uniform(58, 67),
        "sa": chance.uniform(54, 66),
    }
    kept = {key: value for key, value in spoken.items() if chance.random() < 0.97}
    return readings(**kept)


def _context(chance: random.Random) -> Context:
    seen = {key for key in SEEN if chance.random() < 0.12}
    for one, other in OPPOSITES:
        if one in seen:
            seen.discard(other)
    return Context(chance.choice([None, 5, 20, 40]), chance.choice([None, 3, 15]), frozenset(seen))


class DoNoHarmTest(unittest.TestCase):
    def test_add_stands_only_beside_its_evidence(self):
        chance = random.Random(2026)
        methods = [school.key for school in methods_for_charge()]
        added = judged = 0
        for _ in range(CASES):
            plate, context = _plate(chance), _context(chance)
            read = _lowish(chance, plate) if chance.random() < 0.6 else _readings(chance)
            preferred = tuple(chance.sample(methods, 2))
            try:
                result = assess(plate, read, context, preferred=preferred)
            except CoreError:
                continue  # a pressure off the fluid's table: refused, nothing advised
            judged += 1
            if result.decision.advice == "add":
                added += 1
                self.check(result)
        self.assertGreater(judged, 2_600)
        self.assertGreater(added, 8, "the sweep never met a case that may be charged")

    def check(self, result: Assessment) -> None:
        case, derived = result.case, result.case.derived
        what = f"{case.plate} {case.readings} {case.context}"
        self.assertIs(case.plate.application, Application.COMFORT_COOLING, what)
        self.assertEqual(result.doubts, (), what)
        self.assertNotIn("blocks", [breach.effect for breach in result.breaches], what)
        subcooling = result.targets.windows["subcooling"]
        if case.plate.metering_device.is_valve:
            assert derived.subcooling is not None
            self.assertEqual(subcooling.place(derived.subcooling), "low", what)
        elif derived.subcooling is not None:  # an orifice is charged by superheat
            self.assertNotEqual(subcooling.place(derived.subcooling), "high", what)
        superheat = result.targets.windows["superheat"]
        assert derived.superheat is not None
        allowed = {"in", "high"} if case.plate.metering_device.is_valve else {"high"}
        self.assertIn(superheat.place(derived.superheat), allowed, what)
        self.assertGreaterEqual(derived.superheat * 1.8, 3 - 1e-6, what)
        self.assertGreaterEqual(derived.evaporator_saturation, celsius(32), what)
        self.assertGreaterEqual(case.readings["return_air_temp"], celsius(70) - 1e-6, what)
        self.assertGreaterEqual(case.readings["outdoor_air_temp"], celsius(65) - 1e-6, what)
        self.assertGreaterEqual(case.context.minutes_running or 0, 15, what)
        self.assertLess(derived.liquid_line_drop or 0, 5 / 1.8 + 0.01, what)
        self.assertEqual(result.suspects[0].suspect.key, "undercharge", what)
        self.assertTrue(result.cautions, what)
        if derived.airflow_per_capacity is not None:
            self.assertTrue(
                14 < derived.airflow_per_capacity / 3.78 < 25, what
            )  # 270 to 510 CFM/ton
        for key in (
            "filter_dirty",
            "condenser_coil_dirty",
            "ice_on_coil",
            "blower_capacitor_weak",
            "oil_seen_at_joint",
        ):
            self.assertFalse(case.saw(key), what)
