"""Kinds of plant: a row and a folder of tables are enough to be judged; a heat pump has two."""

import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from typing import ClassVar

from nudge.core.behaviours.behaviour import Behaviour
from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.loop import draw_loop
from nudge.core.behaviours.rows import BEHAVIOURS, behaviour_of
from nudge.core.behaviours.workings import derived_workings
from nudge.core.judgement.assess import assess
from nudge.core.judgement.model import model_of
from nudge.core.judgement.suspect_table import SUSPECTS, Suspect
from nudge.core.physics.circuit.equipment import Application, ReversingValve
from tests.core.field import COOLING, SETTLED, celsius, judged, plate, readings

EXPECTED = """device,sign,base,per °F outdoors,per °F indoors,per SEER,±
valve,superheat,0,0,0,0,2
valve,subcooling,0,0,0,0,2
"""
SIGNATURES = """device,suspect,fault,severity,cases,superheat,subcooling
valve,none,none,,50,0.0±2.0,0.0±2.0
valve,sluice_jammed,sluice_jammed,severe,50,9.0±3.0,0.0±2.0
"""
TOGETHER = "device,sign,with,correlation\nvalve,superheat,subcooling,0.1\n"
JAMMED = Suspect("sluice_jammed", "Sluice jammed", 20, 5, "by its sound", "Free the sluice.")


class MadeUpTest(unittest.TestCase):
    """A kind of plant that is nowhere but here: a row, its suspects, three tables."""

    def setUp(self):
        folder = self.enterContext(tempfile.TemporaryDirectory())
        for name, text in (
            ("expectations", EXPECTED),
            ("signatures", SIGNATURES),
            ("together", TOGETHER),
        ):
            Path(folder, f"{name}.csv").write_text(text, "utf-8")
        self.kind = Behaviour(
            "sluice",
            Application.COMFORT_COOLING,
            "cooling",
            "check_only",
            "It is nowhere but here.",
            tables=Path(folder),
        )
        common = {key: SUSPECTS[key] for key in ("none", "sensor_suspect", "something_else")}
        self.model = replace(
            model_of(self.kind, "valve"),
            suspects=common | {"sluice_jammed": JAMMED},
            pairs=(),
            episodes=(),
        )

    def judged(self, superheat_f):
        # 118 psig of R-410A boils at 40.0 °F: the line stands that far over it.
        read = readings(suct=118, liq=341, sl=40 + superheat_f, ll=96)
        return assess(plate(), read, SETTLED, behaviour=self.kind, model=self.model)

    def test_it_is_judged_by_its_own_suspects(self):
        jammed, right = self.judged(22), self.judged(11)
        self.assertEqual(jammed.suspects[0].suspect.key, "sluice_jammed")
        self.assertGreater(jammed.suspects[0].belief, 0.6)
        self.assertEqual(jammed.diagnosis.act, "Free the sluice.")
        self.assertEqual(right.suspects[0].suspect.key, "none")
        for found in (jammed, right):
            self.assertAlmostEqual(sum(one.belief for one in found.suspects), 1, delta=0.01)
            self.assertNotIn("undercharge", found.weighing.suspects)

    def test_it_never_moves_refrigerant_for_want_of_a_suspect(self):
        self.assertNotIn(self.judged(22).decision.advice, ("add", "remove", "find_leak"))

    def test_the_packaged_kinds_are_as_they_were(self):
        self.judged(22)
        self.assertIs(behaviour_of(plate()), COOLING)
        self.assertEqual(
            set(judged(suct=118, liq=341, sl=52, ll=96, oa=88).weighing.suspects), set(SUSPECTS)
        )


class HeatPumpTest(unittest.TestCase):
    """In heating: outdoors is the cold side, the vapour line is hot, the house is not too cold."""

    READ: ClassVar = {
        "suct": 96,
        "liq": 360,
        "ts": 38,
        "sl": 150,
        "ll": 92,
        "oa": 38,
        "ra": 66,
        "sa": 92,
    }

    def in_heating(self, **spoken):
        of = plate(reversing_valve=ReversingValve.PRESENT)
        return assess(of, readings(**{**self.READ, **spoken}), replace(SETTLED, mode="heating"))

    def test_the_mode_of_the_visit_chooses(self):
        for of, mode, key in (
            (plate(), "", "cooling"),
            (plate(), "heating", "heating"),
            (plate(reversing_valve=ReversingValve.ABSENT), "heating", "cooling"),
            (plate(application=Application.HEAT_PUMP_HEATING), "", "heating"),
            (plate(application=Application.HEAT_PUMP_HEATING), "cooling", "cooling"),
            (plate(application=Application.REFRIGERATION), "heating", "cold_room"),
        ):
            with self.subTest(f"{of.application} {mode}"):
                self.assertIs(behaviour_of(of, mode), BEHAVIOURS[key])

    def test_each_number_stands_on_the_right_point(self):
        case = self.in_heating().case
        # R-410A at 96 psig boils at 29.6 °F (dew) and at 360 psig condenses at 109.2 °F.
        self.assertAlmostEqual(case.derived.superheat * 1.8, 38 - 29.6, delta=0.4)
        self.assertAlmostEqual(case.derived.condensing_over_ambient * 1.8, 109.2 - 66, delta=0.5)
        self.assertAlmostEqual(case.derived.evaporator_difference * 1.8, 38 - 29.6, delta=0.6)
        self.assertIsNone(case.derived.temperature_split)
        opened = derived_workings(case)
        self.assertIn("true suction", opened["superheat"].formula.formula)
        self.assertEqual(opened["condensing_over_ambient"].formula.label, "Condensing over return")
        loop = draw_loop(case)
        gap = next(one for one in loop.gaps if one.key == "superheat")
        self.assertAlmostEqual(gap.line_c, celsius(38))
        self.assertNotIn("suction_line", [one.key for one in loop.stations])

    def test_the_hot_vapour_line_is_no_superheat(self):
        without = {key: value for key, value in self.READ.items() if key != "ts"}
        found = assess(
            plate(reversing_valve=ReversingValve.PRESENT),
            readings(**without),
            replace(SETTLED, mode="heating"),
        )
        self.assertIsNone(found.case.derived.superheat)

    def test_it_is_checked_not_charged_and_nobody_is_told_to_warm_the_house(self):
        found = self.in_heating()
        self.assertEqual(found.breaches[0].gate.key, "application_not_judged")
        self.assertNotIn("indoor_below_70", [b.gate.key for b in found.breaches])
        self.assertEqual(found.decision.advice, "do_not_charge")
        named = set(found.weighing.suspects)
        self.assertFalse(named & {"low_indoor_load", "high_indoor_load", "low_ambient_stacking"})
        self.assertIn("outdoor_coil_iced", named)
        said = found.decision.reason.text("ip") + " ".join(
            b.message.text("ip") for b in found.breaches
        )
        self.assertNotIn("Warm the house", said)
        self.assertIn("charged in cooling", said)

    def test_a_cooling_target_judges_no_winters_day(self):
        self.assertEqual(
            set(self.in_heating().targets.windows), {"superheat", "evaporator_superheat"}
        )

    def test_liquid_at_true_suction_is_a_hazard_and_frost_outdoors_is_none(self):
        self.assertEqual([h.key for h, _ in self.in_heating().hazards], [])
        wet = self.in_heating(ts=30.5)
        self.assertEqual([h.key for h, _ in wet.hazards], ["liquid_return"])

    def test_in_cooling_the_same_machine_is_judged_as_ever(self):
        of = plate(reversing_valve=ReversingValve.PRESENT)
        read = readings(suct=118, liq=341, sl=52, ll=96, oa=88, ra=76, wb=64)
        self.assertEqual(assess(of, read, SETTLED).decision.advice, "leave")


class OtherKindsTest(unittest.TestCase):
    def test_a_kind_without_tables_answers_by_windows_and_says_so(self):
        for key, says in (
            ("vehicle", "doors and windows open"),
            ("multi_zone", "an hour of it at least"),
            ("cold_room", "set point"),
        ):
            with self.subTest(key):
                row = BEHAVIOURS[key]
                found = assess(
                    plate(application=row.application),
                    readings(suct=60, liq=200, sl=60, ll=90, oa=80),
                    SETTLED,
                )
                self.assertIs(found.case.behaviour, row)
                self.assertEqual(found.suspects, ())
                self.assertIn(says, found.decision.reason.text("ip"))
                self.assertEqual(found.decision.advice, "do_not_charge")

    def test_a_cold_room_counts_its_difference_from_the_box(self):
        of = plate(fluid="R-404A", application=Application.REFRIGERATION)
        case = open_case(of, readings(suct=20, box=-5, ra=70), Context())
        # R-404A at 20 psig boils at about -15 °F: some 10 °F under the box, not 85 under the room.
        self.assertAlmostEqual(case.derived.evaporator_difference * 1.8, 10, delta=1.5)
