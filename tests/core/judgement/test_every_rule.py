"""Every rule of a cooling visit decides on a case written for it, and says and advises its own."""

import unittest
from dataclasses import replace

from nudge.core.behaviours.case import Context
from nudge.core.judgement.decision.other_plant import OTHER_PLANT
from nudge.core.judgement.decision.rules import RULES
from nudge.core.language.said import say
from nudge.core.physics.circuit.equipment import Application
from nudge.core.physics.circuit.past import Moment, Past
from tests.core.field import judged, plate, readings, settled

SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
NEVER = settled(*SEEN.observations, "circuit_never_opened")
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
RIGHT = {"suct": 120.6, "liq": 356, "sl": 51, "ll": 98, "oa": 88, "ra": 76, "wb": 63, "sa": 57}
HIGH = {"suct": 122, "liq": 375, "sl": 52, "ll": 91, "oa": 88, "ra": 76, "wb": 63}
FULL_COIL = {"suct": 135, "liq": 400, "sl": 50, "ll": 92, "oa": 88, "ra": 76, "wb": 67}
VALVE = plate()
SMALL = plate(factory_charge_kg=2.0)
ORIFICE = plate("fixed_orifice", subcooling=None)
BEFORE_A_DOSE = readings(**LOW)
WEIGHED_IN = Past(weighed_in=True, proven_tight=True)
FILTER = {
    "before": say("The filter was not looked at."),
    "before_check": "look_at_filter",
}
PASSED = {"minutes_running": 9, "minutes_since_change": 20, "passed": {"run_short": "no time"}}


def _but(spoken, *without, **changed):
    kept = {name: value for name, value in spoken.items() if name not in without}
    return {**kept, **changed}


def _past(context, *moments, added=0.0, **more):
    return replace(context, past=Past(moments, added_since_kg=added, **more))


ON_THE_WAY = (
    Moment(50, readings(**_but(LOW, suct=100, liq=305, sl=64, ll=96))),
    Moment(25, readings(**_but(LOW, suct=104, liq=312, sl=60, ll=96.5)), 0.55),
)
CASES = {
    "open_circuit": (VALVE, replace(SEEN, open_circuit=say("It is open.")), RIGHT, "It is open"),
    "stop_it": (VALVE, SEEN, _but(RIGHT, liq=620), "Stop"),
    "stop_adding": (
        VALVE,
        _past(SEEN, Moment(20, BEFORE_A_DOSE), added=0.1),
        _but(RIGHT, sl=43.5),
        "Nothing more goes in",
    ),
    "opened_next": (VALVE, replace(SEEN, is_opened_next=True), RIGHT, "Recover all of it"),
    "weigh_the_rest": (
        VALVE,
        replace(SEEN, to_weigh_kg=1.0, past=Past(proven_tight=True)),
        RIGHT,
        "This is weighing, not trimming",
    ),
    "not_judged": (
        plate(application=Application.MULTI_ZONE),
        SEEN,
        RIGHT,
        "multi-zone",
    ),
    "standing": (VALVE, SEEN, {"suct": 210, "liq": 212, "oa": 76, "ra": 76}, "standing"),
    "impossible": (VALVE, SEEN, _but(RIGHT, ll=130), "liquid cannot be"),
    "caps_on": (VALVE, SEEN, _but(RIGHT, "suct", "liq"), "Nothing asks for gauges"),
    "wrong_way": (
        VALVE,
        _past(SEEN, Moment(20, readings(**_but(LOW, sl=52))), added=0.15),
        _but(LOW, sl=62),
        "Superheat rose after a dose",
    ),
    "in_vain": (
        VALVE,
        _past(SEEN, Moment(50, BEFORE_A_DOSE), Moment(25, BEFORE_A_DOSE, 0.15), added=0.15),
        LOW,
        "2 doses were not answered",
    ),
    "too_much_in": (
        SMALL,
        _past(SEEN, *ON_THE_WAY, added=0.55),
        _but(LOW, suct=112, liq=330, sl=54),
        "more than half a charge",
    ),
    "valve_shut": (
        VALVE,
        settled(*SEEN.observations, "valve_proven_shut"),
        _but(RIGHT, suct=80, sl=65),
        "the valve lets nothing through",
    ),
    "another_suspect": (
        VALVE,
        _past(SEEN, Moment(20, BEFORE_A_DOSE), added=0.15),
        _but(LOW, suct=80, sl=65, ll=88, lli=70),
        "not to charge",
    ),
    "restricted": (VALVE, SEEN, _but(RIGHT, suct=95, sl=66, lli=80), "between the two clamps"),
    "empty": (
        VALVE,
        SEEN,
        {"suct": 108, "liq": 270, "sl": 78, "ll": 92, "oa": 86, "ra": 80, "wb": 66},
        "Far too little refrigerant",
    ),
    "rest_of_sheet": (
        VALVE,
        replace(SEEN, past=replace(WEIGHED_IN, sheet_left_kg=0.3)),
        _but(LOW, oa=60, liq=230, ll=70),
        "of its sheet is still to go in",
    ),
    "first": (VALVE, settled("filter_dirty"), RIGHT, "filter"),
    "wait": (VALVE, Context(4, 4, SEEN.observations), RIGHT, "Let it run"),
    "no_target": (ORIFICE, SEEN, {"suct": 120, "liq": 340, "sl": 55, "ll": 98}, "wet bulb"),
    "unread": (VALVE, SEEN, {"suct": 120, "sl": 52, "oa": 88, "ra": 76}, "liquid pressure"),
    "sheet_doubted": (
        VALVE,
        replace(SEEN, past=WEIGHED_IN),
        {"suct": 85, "liq": 280, "sl": 75, "ll": 93, "oa": 86, "ra": 76, "wb": 63},
        "the sheet is what to doubt",
    ),
    "contradicted": (VALVE, SEEN, _but(LOW, lli=91), "drops too much"),
    "another_leads": (
        ORIFICE,
        settled(*NEVER.observations, "readings_confirmed"),
        _but(RIGHT, sl=58),
        "nothing is moved on that",
    ),
    "leak_seen": (VALVE, settled("oil_seen_at_joint"), LOW, "Oil at a joint"),
    "leak_by_history": (VALVE, replace(SEEN, past=Past(additions=2)), LOW, "within two years"),
    "low_missing": (VALVE, SEEN, _but(LOW, "ra", "wb"), "One thing is missing: read return air"),
    "no_liquid": (VALVE, SEEN, _but(LOW, ll=102, liq=330, sl=50), "does not use refrigerant up"),
    "low_unsure": (
        VALVE,
        SEEN,
        _but(LOW, "sa", "wb", liq=335, suct=115, sl=52),
        "not enough to add on",
    ),
    "low_hangs": (
        VALVE,
        SEEN,
        _but(LOW, "sa", sl=48, liq=330, ll=99),
        "hangs on the liquid clamp alone",
    ),
    "low_freezing": (
        VALVE,
        SEEN,
        _but(LOW, suct=98, liq=300, sl=44, ll=95),
        "that is a leak, not a trim",
    ),
    "low_steps_open": (VALVE, replace(SEEN, **FILTER), LOW, "The filter was not looked at"),
    "low_past_gate": (VALVE, replace(SEEN, **PASSED), LOW, "A gate was passed"),
    "add": (VALVE, SEEN, LOW, "its look-alikes are ruled out"),
    "took_too_much": (
        VALVE,
        _past(SEEN, Moment(20, BEFORE_A_DOSE), added=0.3),
        _but(HIGH, ll=90),
        "The last dose went past the window",
    ),
    "air_not_charge": (
        ORIFICE,
        NEVER,
        _but(HIGH, sl=47, ll=104, wb=67, sa=57),
        "the liquid line is not over-full",
    ),
    "high_contradicted": (VALVE, NEVER, _but(HIGH, sl=75), "liquid is not getting through"),
    "high_missing": (VALVE, settled("filter_clean"), HIGH, "look at the outdoor coil"),
    "high_old": (
        ORIFICE,
        replace(NEVER, stale=frozenset({"liquid_line_temp"})),
        _but(FULL_COIL, sa=60),
        "Measure liquid line",
    ),
    "indoor_air_open": (ORIFICE, NEVER, FULL_COIL, "First rule out low indoor air"),
    "high_another_leads": (VALVE, SEEN, _but(HIGH, liq=440, ll=100, oa=80), "It reads high"),
    "high_unsure": (VALVE, NEVER, _but(HIGH, ll=96), "not enough to remove on"),
    "air_not_parted": (VALVE, SEEN, _but(HIGH, ll=87, sa=56), "Air in the system reads the same"),
    "high_steps_open": (VALVE, replace(NEVER, **FILTER), HIGH, "The filter was not looked at"),
    "high_past_gate": (VALVE, replace(NEVER, **PASSED), HIGH, "A gate was passed"),
    "remove": (VALVE, NEVER, HIGH, "recovery cylinder, never to air"),
    "not_through": (VALVE, SEEN, _but(RIGHT, suct=90, sl=66), "the evaporator starves"),
    "at_the_edge": (VALVE, SEEN, _but(RIGHT, ll=100.8, sl=54.5), "Settle that before anything"),
    "starves": (VALVE, SEEN, _but(RIGHT, sl=60, suct=116), "superheat is over the valve's band"),
    "floods": (VALVE, SEEN, _but(RIGHT, sl=45.5), "Check airflow, then the bulb"),
    "confirm": (
        VALVE,
        replace(
            _past(SEEN, Moment(20, BEFORE_A_DOSE), added=0.15),
            minutes_since_change=11,
        ),
        RIGHT,
        "read again in 4 min to confirm",
    ),
    "right_open": (VALVE, SEEN, _but(RIGHT, sa=61), "What else may be wrong is open"),
    "right": (VALVE, SEEN, RIGHT, "inside 7.0 to 13.0"),
}
"""By rule: the plate, how the readings came about, the readings, and what must be said."""
ELSEWHERE = {
    "near_enough": "beliefs that a window's edge and nothing wrong share: test_weighed_in",
}


class EveryRuleTest(unittest.TestCase):
    def test_every_rule_decides_on_the_case_written_for_it(self):
        rows = {rule.key: rule for rule in RULES}
        for key, (of, context, spoken, words) in CASES.items():
            with self.subTest(key):
                found = judged(of, context, **spoken).decision
                self.assertEqual(found.key, key, found.reason.text("ip"))
                self.assertIn(words, found.reason.text("ip"))
                self.assertEqual(found.order, rows[key].order)
                self.assertIn(found.advice, (rows[key].advice, "find_leak"))
                self.assertTrue(found.headline)

    def test_no_rule_is_left_out(self):
        others = {rule.key for rule in OTHER_PLANT} | {"heat_gauge_on_hot_gas"}
        self.assertEqual({rule.key for rule in RULES} - others, CASES.keys() | ELSEWHERE.keys())

    def test_only_what_must_moves_refrigerant(self):
        moving = {
            key
            for key, (of, context, spoken, _) in CASES.items()
            if judged(of, context, **spoken).decision.moves_refrigerant
        }
        self.assertEqual(moving, {"add", "remove", "took_too_much"})

    def test_every_hold_before_adding_names_what_is_missing(self):
        for key in ("low_missing", "low_unsure", "low_hangs", "no_liquid", "low_steps_open"):
            of, context, spoken, _ = CASES[key]
            found = judged(of, context, **spoken).decision
            with self.subTest(key):
                self.assertEqual(found.state, "low")
                self.assertIsNotNone(found.hangs_on)
                self.assertGreater(found.belief, 0.4)


class GuessedTargetTest(unittest.TestCase):
    """Makers build valve systems for 8 to 14 °F: without its plate none of them is wrong."""

    SURE = settled(*NEVER.observations, "readings_confirmed")

    def test_what_another_maker_asks_for_is_not_too_much(self):
        # 15.4 °F: too much for a plate of 10, and near enough what a plate of 14 asks for.
        spoken = _but(RIGHT, ll=92.5)
        self.assertEqual(judged(VALVE, self.SURE, **spoken).decision.advice, "remove")
        held = judged(plate(subcooling=None), self.SURE, **spoken).decision
        self.assertEqual((held.state, held.advice), ("high", "do_not_charge"))
        self.assertEqual((held.hangs_on.kind, held.hangs_on.key), ("look", "plate"))
        found = judged(plate(subcooling=14), self.SURE, **spoken).decision
        self.assertEqual(found.advice, "leave")

    def test_what_no_maker_asks_for_is_too_much_without_a_plate_as_well(self):
        found = judged(plate(subcooling=None), self.SURE, **_but(RIGHT, ll=88)).decision
        self.assertEqual(found.advice, "remove")
        self.assertIn("is a guess", found.reason.text("ip"))

    def test_its_own_subcooling_when_last_right_is_no_guess(self):
        own = replace(self.SURE, own={"subcooling": 0.0})
        spoken, unknown = _but(RIGHT, ll=92.5), plate(subcooling=None)
        as_last = _belief(judged(unknown, own, **spoken), "overcharge")
        by_plate = _belief(judged(VALVE, own, **spoken), "overcharge")
        self.assertAlmostEqual(as_last, by_plate)
        self.assertGreater(as_last, _belief(judged(unknown, self.SURE, **spoken), "overcharge"))


def _belief(found, suspect):
    return next(b.belief for b in found.suspects if b.suspect.key == suspect)
