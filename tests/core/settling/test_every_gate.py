"""Every gate: a case that shuts it, the same case put right, and nothing moved while it is shut."""

import unittest
from dataclasses import dataclass, field, replace
from typing import Any

from nudge.core.behaviours.case import Context, open_case
from nudge.core.checks.observations import OBSERVATIONS
from nudge.core.checks.table import CHECKS
from nudge.core.judgement.assess import assess
from nudge.core.language.said import say
from nudge.core.language.units import fahrenheit
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.settling.gate import CLOCKS, NEVER_PASSED
from nudge.core.settling.gates import GATES, open_gates
from nudge.core.targets.choose import choose_targets
from nudge.core.visit.steps import STEP_KEYS
from tests.core.field import Application, plate, readings, settled
from tests.core.judgement.test_cold_rooms import FREEZER
from tests.core.judgement.test_cold_rooms import read as room_read
from tests.core.judgement.test_heating_visits import plate as heat_plate
from tests.core.judgement.test_vehicles import VAN
from tests.core.physics.test_vehicle import reads as van_reads

SEEN = settled("filter_clean", "evaporator_coil_clean", "condenser_coil_clean", "condenser_fan_ok")
LOW = {"suct": 108, "liq": 320, "sl": 56, "ll": 97, "oa": 86, "ra": 76, "wb": 63, "sa": 62}
"""Low on charge by every sign: with nothing in the way some is added."""
RUNNING = Context(minutes_running=60.0, minutes_since_change=60.0)
READY = replace(RUNNING, observations=frozenset({"vehicle_ready"}))
ORIFICE = plate("fixed_orifice", subcooling=None)
INVERTER = plate("eev")
SIZED = plate(nominal_capacity_w=10_550.0)


@dataclass(frozen=True, slots=True)
class Shown:
    """A case: the plate, how the readings came about, and the readings in core units."""

    plate: Plate = field(default_factory=plate)
    context: Context = SEEN
    read: dict[str, float] = field(default_factory=lambda: readings(**LOW))

    def but(self, **changed: Any) -> "Shown":
        """Another reading, plate or context; `None` takes a reading away."""
        outer = {k: v for k, v in changed.items() if k in ("plate", "context")}
        spoken = {k: v for k, v in changed.items() if k not in outer}
        gone = {key for key, v in readings(**dict.fromkeys(spoken, 0)).items()}
        kept = {k: v for k, v in self.read.items() if k not in gone}
        new = readings(**{k: v for k, v in spoken.items() if v is not None})
        return replace(self, read={**kept, **new}, **outer)

    def about(self, **how: Any) -> "Shown":
        return replace(self, context=replace(self.context, **how))

    def saw(self, *keys: str, instead_of: str = "") -> "Shown":
        seen = self.context.observations - {instead_of} | set(keys)
        return self.about(observations=frozenset(seen))

    def shut(self) -> dict[str, str]:
        found = open_case(self.plate, self.read, self.context)
        return {b.gate.key: b.effect for b in open_gates(found, choose_targets(found))}


GOOD = Shown()
HEATING = Shown(
    heat_plate(),
    Context(40.0, 40.0, mode="heating"),
    readings(ra=69, sa=92, oa=38, suct=95, liq=330, ts=40, ll=85),
)
ROOM = Shown(FREEZER, RUNNING, room_read())
VEHICLE = Shown(VAN, READY, van_reads())
WET = GOOD.but(wb=72.5)
CASES: dict[str, tuple[Shown, Shown]] = {
    "application_not_judged": (
        GOOD.but(plate=plate(application=Application.MULTI_ZONE)), GOOD,
    ),
    "not_running": (GOOD.but(suct=170, liq=172), GOOD),
    "run_short": (GOOD.about(minutes_running=14), GOOD.about(minutes_running=15)),
    "just_changed": (GOOD.about(minutes_since_change=9), GOOD.about(minutes_since_change=10)),
    "charge_mode_off": (
        GOOD.but(plate=INVERTER).about(charge_mode="needed"),
        GOOD.but(plate=INVERTER).about(charge_mode="full", minutes_in_mode=31.0),
    ),
    "charge_mode_short": (
        GOOD.but(plate=INVERTER).about(charge_mode="full", minutes_in_mode=29.0),
        GOOD.but(plate=INVERTER).about(charge_mode="full", minutes_in_mode=30.0),
    ),
    "charge_mode_long": (
        GOOD.but(plate=INVERTER).about(charge_mode="partial", minutes_in_mode=121.0),
        GOOD.but(plate=INVERTER).about(charge_mode="full", minutes_in_mode=121.0),
    ),
    "in_defrost": (HEATING.about(minutes_clear=9.5), HEATING.about(minutes_clear=10.0)),
    "no_set_point": (ROOM.but(plate=replace(FREEZER, box_set_point_c=None)), ROOM),
    "set_over_outdoors": (
        ROOM.but(plate=replace(FREEZER, box_set_point_c=fahrenheit(80)), oa=72), ROOM,
    ),
    "off_set_point": (
        replace(ROOM, read=room_read(box=0.6)), replace(ROOM, read=room_read(box=-0.4)),
    ),
    "door_open": (ROOM.about(since_door=0.0), ROOM.about(since_door=11.0)),
    "vehicle_not_ready": (VEHICLE.about(observations=frozenset()), VEHICLE),
    "engine_cold": (
        replace(VEHICLE, read=van_reads(coolant_temp=120.0)),
        replace(VEHICLE, read=van_reads(coolant_temp=190.0)),
    ),
    "too_mild_to_heat": (HEATING.but(oa=65.5), HEATING.but(oa=64.5)),
    "not_settled": (GOOD.about(unsettled=say("About 3 min more to settle.")), GOOD),
    "indoor_below_70": (GOOD.but(ra=69.9), GOOD.but(ra=70)),
    "outdoor_below_70": (GOOD.but(oa=69.9), GOOD.but(oa=70)),
    "valve_starved": (
        GOOD.but(suct=100, liq=250, sl=52, ll=66, oa=72),
        GOOD.but(suct=100, liq=250, sl=44, ll=66, oa=72),
    ),
    "valve_pressure_low": (GOOD.but(suct=118, liq=277), GOOD.but(suct=118, liq=279)),
    "collar_air_unread": (GOOD.saw("collar_on"), GOOD.saw("collar_on").but(cea=86)),
    "condenser_wet": (GOOD.saw("condenser_wet"), GOOD.saw("condenser_dry")),
    "wet_bulb_out_of_range": (
        GOOD.but(plate=ORIFICE, ra=80, wb=76.1), GOOD.but(plate=ORIFICE, ra=80, wb=75.9),
    ),
    "outdoor_out_of_range": (
        GOOD.but(plate=ORIFICE, oa=115.2, liq=480, ll=120),
        GOOD.but(plate=ORIFICE, oa=114.8, liq=480, ll=120),
    ),
    "superheat_target_too_low": (
        GOOD.but(plate=ORIFICE, wb=59, oa=88), GOOD.but(plate=ORIFICE, wb=60, oa=88),
    ),
    "airflow_out_of_range": (
        GOOD.but(plate=SIZED, cfm=700, sa=54), GOOD.but(plate=SIZED, cfm=1200, sa=56),
    ),
    "filter_dirty": (GOOD.saw("filter_dirty", instead_of="filter_clean"), GOOD),
    "evaporator_coil_dirty": (
        GOOD.saw("evaporator_coil_dirty", instead_of="evaporator_coil_clean"), GOOD,
    ),
    "condenser_coil_dirty": (
        GOOD.saw("condenser_coil_dirty", instead_of="condenser_coil_clean"), GOOD,
    ),
    "blower_capacitor_weak": (
        GOOD.saw("blower_capacitor_weak"), GOOD.saw("blower_capacitor_ok"),
    ),
    "duct_unmeasured": (GOOD.but(tesp=0.81), GOOD.but(tesp=0.79)),
    "condenser_fan_weak": (
        GOOD.saw("condenser_fan_weak", instead_of="condenser_fan_ok"), GOOD,
    ),
    "discharge_air_returns": (
        GOOD.saw("discharge_air_returns"), GOOD.saw("discharge_air_clear"),
    ),
    "airflow_low": (GOOD.saw("airflow_low"), GOOD.saw("airflow_ok")),
    "bulb_loose": (GOOD.saw("bulb_loose"), GOOD.saw("bulb_secure")),
    "kink_found": (GOOD.saw("kink_found"), GOOD),
    "service_valve_not_open": (GOOD.saw("service_valve_not_open"), GOOD),
    "standing_pressure_high": (
        GOOD.saw("standing_pressure_high"), GOOD.saw("standing_pressure_right"),
    ),
    "reading_confirmed_wrong": (GOOD.saw("reading_confirmed_wrong"), GOOD),
    "looks_contradict": (GOOD.saw("filter_dirty"), GOOD),
    "readings_estimated": (
        GOOD.about(estimated=frozenset({"outdoor_air_temp"})),
        GOOD.about(estimated=frozenset({"supply_static"})),
    ),
    "readings_stale": (
        GOOD.about(stale=frozenset({"liquid_line_temp"})),
        GOOD.about(stale=frozenset({"supply_static"})),
    ),
    "ice_on_coil": (GOOD.saw("ice_on_coil"), GOOD),
    "duct_trouble": (GOOD.but(tesp=0.6), GOOD.but(tesp=0.45)),
    "return_air_unknown": (GOOD.but(ra=None, wb=None, sa=None), GOOD),
    "outdoor_air_unknown": (GOOD.but(oa=None), GOOD),
    "running_unknown": (GOOD.about(minutes_running=None), GOOD),
    "air_unseen": (GOOD.about(observations=frozenset()), GOOD),
    "humid_house": (WET, GOOD.but(wb=71.0)),
    "plate_efficiency_odd": (
        GOOD.but(plate=plate(rated_seer=26.5)), GOOD.but(plate=plate(rated_seer=25.5)),
    ),
    "plate_figures_odd": (
        GOOD.but(plate=plate(subcooling=12, condensing_over_ambient_k=6.0)),
        GOOD.but(plate=plate(subcooling=10, condensing_over_ambient_k=11.0)),
    ),
    "house_air_odd": (GOOD.but(ra=99), GOOD.but(ra=97)),
    "condenser_unseen": (GOOD.about(observations=frozenset()), GOOD),
}  # fmt: skip
ELSEWHERE = {"chart_silent", "blower_table_silent"}
"""They want a maker's chart: they are met where charts are, in the targets' and the API's tests."""
WHY, MOVES = "the owner wants a number today", ("add", "remove")
BLOCKING = [row for row in GATES if row.effect == "blocks"]


class EveryGateTest(unittest.TestCase):
    def test_each_has_a_case_here(self):
        self.assertEqual({row.key for row in GATES}, CASES.keys() | ELSEWHERE)
        self.assertEqual(len({row.key for row in GATES}), len(GATES))

    def test_it_is_shut_by_what_it_is_for_and_open_once_that_is_put_right(self):
        effect = {row.key: row.effect for row in GATES}
        for key, (shut, put_right) in CASES.items():
            with self.subTest(key):
                self.assertEqual(shut.shut().get(key), effect[key])
                self.assertNotIn(key, put_right.shut())

    def test_with_nothing_in_the_way_the_same_readings_are_charged_by(self):
        self.assertEqual(assess(GOOD.plate, GOOD.read, GOOD.context).decision.advice, "add")

    def test_while_one_that_blocks_is_shut_nothing_moves(self):
        for row in BLOCKING:
            shut, _ = CASES[row.key]
            with self.subTest(row.key):
                found = assess(shut.plate, shut.read, shut.context).decision
                self.assertNotIn(found.advice, MOVES)

    def test_passed_with_a_reason_the_reason_is_printed_and_still_nothing_moves(self):
        for row in BLOCKING:
            if row.key in NEVER_PASSED:
                continue
            shut, _ = CASES[row.key]
            passed = shut.about(passed={row.key: WHY})
            with self.subTest(row.key):
                found = assess(passed.plate, passed.read, passed.context)
                self.assertNotIn(found.decision.advice, MOVES)
                mine = next(b for b in found.breaches if b.gate.key == row.key)
                self.assertEqual((mine.effect, mine.passed), ("warns", True))
                self.assertIn(f"because: {WHY}.", mine.message.text("ip"))

    def test_it_says_why_in_every_unit_with_nothing_left_to_fill_in(self):
        for key, (shut, _) in CASES.items():
            found = open_case(shut.plate, shut.read, shut.context)
            breach = next(b for b in open_gates(found, choose_targets(found)) if b.gate.key == key)
            for units in ("ip", "si", "si_bar"):
                with self.subTest(key, units=units):
                    text = breach.message.text(units)
                    self.assertNotRegex(text, r"[{}]")
                    self.assertRegex(text, r"[.”]$")
                    if units != "ip":
                        self.assertNotRegex(text, r"°F|psi|CFM")
                    else:
                        self.assertNotRegex(text, r"°C|kPa|L/s")

    def test_one_that_blocks_says_what_to_do_first_and_why_it_is_there(self):
        for row in GATES:
            with self.subTest(row.key):
                self.assertRegex(row.reason, r"\.$")
                if row.effect == "blocks":
                    self.assertRegex(row.headline, r"^[A-Z].*\.$")

    def test_what_opens_it_is_something_that_can_be_done(self):
        for row in GATES:
            if row.opened_by is None:
                continue
            kind, key = row.opened_by
            with self.subTest(row.key):
                if kind == "reading":
                    self.assertIn(key, POINTS)
                elif kind in ("look", "test"):
                    self.assertIn(key, {*CHECKS, *OBSERVATIONS})
                else:
                    self.assertIn(key, {*ACTIONS, *STEP_KEYS, *CHECKS})

    def test_time_alone_opens_the_clocks_and_no_reason_opens_what_is_not_refrigeration(self):
        rows = {row.key: row for row in GATES}
        for key in CLOCKS:
            self.assertIsNone(rows[key].opened_by)
            self.assertTrue(rows[key].may_be_passed)
        for key in NEVER_PASSED:
            self.assertFalse(rows[key].may_be_passed)
            shut, _ = CASES[key]
            passed = shut.about(passed={key: "I know better"})
            self.assertEqual(passed.shut()[key], "blocks")


if __name__ == "__main__":
    unittest.main()
