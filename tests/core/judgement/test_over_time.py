"""Evidence over time, the temperature walk, the sentence that comes of it all."""

import unittest
from dataclasses import replace

from nudge.core.judgement.beliefs import Told, weigh
from nudge.core.judgement.departures import departures
from nudge.core.judgement.diagnosis import diagnose
from nudge.core.judgement.over_time import EPISODES, lived_through, seen_at_two_loads
from nudge.core.judgement.suspect_table import SUSPECTS
from nudge.core.language.vocabulary.actions import ACTIONS
from nudge.core.physics.circuit.past import Moment, Past
from tests.core.field import MODELS, SETTLED, case, judged, plate, readings

VALVE = {"suct": 125, "liq": 350, "sl": 48, "ll": 97, "oa": 88, "ra": 78, "wb": 66}
EARLIER = {"suct": 116, "liq": 345, "sl": 52, "ll": 96, "oa": 88, "ra": 72, "wb": 60}


def with_past(now: dict[str, float], *moments: Moment, of=None, **more: object):
    context = replace(SETTLED, past=Past(moments, **more))  # type: ignore[arg-type]
    return case(of, context, **now)


def found(of_case) -> set[str]:
    return {episode.row.key for episode in lived_through(of_case)}


class EpisodesTest(unittest.TestCase):
    def test_superheat_that_moves_with_load(self):
        # 125 psig 43 °F: 5 now; 116 psig 39 °F: 13 before, at six degrees less return air.
        moved = with_past(VALVE, Moment(60, readings(**EARLIER)))
        self.assertIn("superheat_moves_with_load", found(moved))
        self.assertTrue(seen_at_two_loads(moved))
        orifice = plate("fixed_orifice", subcooling=None)
        self.assertEqual(
            found(with_past(VALVE, Moment(60, readings(**EARLIER)), of=orifice)), set()
        )

    def test_superheat_held_at_two_loads_speaks_for_the_valve(self):
        held = with_past(VALVE, Moment(60, readings(**{**EARLIER, "sl": 44})))
        self.assertEqual(found(held), {"superheat_held_at_two_loads"})

    def test_one_load_is_no_verdict_on_a_valve(self):
        same = {**EARLIER, "ra": 78, "wb": 66}
        once = with_past(VALVE, Moment(60, readings(**same)))
        self.assertFalse(seen_at_two_loads(once))
        self.assertEqual(found(once), set())

    def test_what_was_touched_between_is_not_load(self):
        dosed = with_past(VALVE, Moment(60, readings(**EARLIER)), added_since_kg=0.2)
        self.assertNotIn("superheat_moves_with_load", found(dosed))

    def test_a_dose_that_suction_did_not_answer(self):
        starved = {"suct": 88, "liq": 310, "sl": 60, "ll": 86, "oa": 84, "ra": 77}
        before = Moment(20, readings(**{**starved, "liq": 300}))
        self.assertIn("dose_did_nothing", found(with_past(starved, before, added_since_kg=0.2)))
        # A dose too small to show says nothing.
        self.assertEqual(found(with_past(starved, before, added_since_kg=0.03)), set())
        better = {**starved, "suct": 105, "sl": 56}
        self.assertEqual(found(with_past(better, before, added_since_kg=0.2)), {"dose_answered"})

    def test_cleaning_is_laid_beside_what_was_before(self):
        hot = Moment(40, readings(suct=126, liq=455, sl=54, ll=116, oa=88))
        cool = {"suct": 120, "liq": 350, "sl": 52, "ll": 97, "oa": 88}
        self.assertEqual(
            found(with_past(cool, hot, done_since="condenser_cleaned")),
            {"cleaned_condenser_answered"},
        )
        still = {"suct": 126, "liq": 452, "sl": 54, "ll": 115, "oa": 88}
        self.assertEqual(
            found(with_past(still, hot, done_since="condenser_cleaned")),
            {"cleaned_condenser_did_nothing"},
        )
        self.assertEqual(found(with_past(still, hot, done_since="drier_renewed")), set())

    def test_hunting_and_history(self):
        past = {"hunting_minutes": 2.5, "additions": 3, "recovered_share": 0.8}
        self.assertEqual(
            found(with_past(VALVE, **past)), {"hunting", "added_before", "recovered_short"}
        )

    def test_earlier_readings_that_cannot_be_are_left_out(self):
        absurd = Moment(
            60, {"suction_pressure": 1e6, "suction_line_temp": 5.0, "return_air_temp": 20.0}
        )
        self.assertEqual(found(with_past(VALVE, absurd)), set())

    def test_rows_speak_of_suspects_and_say_why(self):
        from nudge.core.checks.table import LOOKS

        faults = {fault for look in LOOKS for fault in look.with_fault}
        for row in EPISODES:
            self.assertLessEqual(set(row.factors), set(SUSPECTS) | faults, row.key)
            self.assertTrue(row.reason.endswith("."))
        self.assertTrue(all(a.moves_charge in (-1, 0, 1) for a in ACTIONS.values()))

    def test_they_move_the_beliefs(self):
        starved = {"suct": 92, "liq": 300, "sl": 52, "ll": 90, "oa": 84, "ra": 77}
        plain = judged(plate(), **starved).weighing.suspects["undercharge"]
        before = Moment(20, readings(**starved))
        vain = judged(plate(), replace(SETTLED, past=Past((before,), 0.2)), **starved)
        self.assertLess(vain.weighing.suspects["undercharge"], plain)


class WalkTest(unittest.TestCase):
    def state(self, **spoken: float) -> dict[str, str]:
        return {w.stretch.key: w.state for w in judged(plate(), oa=84, **spoken).walk}

    def test_limits(self):
        for drop, state in ((1.9, "normal"), (3.1, "watch"), (5.1, "restricted"), (-2.5, "watch")):
            with self.subTest(drop):
                self.assertEqual(self.state(di=90, do=90 - drop), {"drier": state})

    def test_the_restriction_is_named_where_it_is(self):
        walked = self.state(ll=92, di=91.5, do=91, lli=80)
        self.assertEqual(
            walked,
            {"outdoor_to_drier": "normal", "drier": "normal", "drier_to_device": "restricted"},
        )
        found = judged(plate(), oa=84, ll=92, di=91.5, do=91, lli=80).walk[-1].said.text("ip")
        self.assertIn("11.0 °F from the drier to the metering device", found)

    def test_end_to_end_only_until_the_stations_between_are_read(self):
        self.assertEqual(self.state(ll=92, lli=80), {"whole_line": "restricted"})
        self.assertEqual(self.state(ll=92), {})


class DiagnosisTest(unittest.TestCase):
    def said(self, context=SETTLED, of=None, **spoken: float):
        found = judged(of or plate(), context, **spoken).diagnosis
        assert found is not None
        return found

    def test_sure_likely_open(self):
        sure = self.said(suct=88, liq=310, sl=68, ll=86, di=86, do=74, oa=82, ra=77)
        self.assertIn(sure.confidence, ("sure", "likely"))
        self.assertEqual(sure.faults, ("liquid_line_restriction",))
        self.assertIn("the drier", sure.sentence)
        unsure = self.said(suct=123, liq=395, sl=52, ll=95, oa=88, ra=76)
        self.assertEqual(unsure.confidence, "open")
        self.assertIn("air in the system", unsure.sentence)
        self.assertRegex(unsure.sentence, "^Cannot tell yet: .* or .*")

    def test_nothing_to_judge_says_so(self):
        standing = self.said(suct=175, liq=177)
        self.assertIn("Nothing to judge yet", standing.sentence)
        self.assertEqual((standing.confidence, standing.faults), ("open", ()))

    def test_a_valve_verdict_says_how_many_loads_it_saw(self):
        flooding = {"suct": 138, "liq": 345, "sl": 49, "ll": 98, "oa": 88, "ra": 76, "wb": 63}
        once = self.said(**flooding)
        self.assertIn("one load only", once.valve)
        past = Past((Moment(60, readings(**{**flooding, "ra": 70, "wb": 57, "sl": 60})),))
        self.assertIn("at two loads", self.said(replace(SETTLED, past=past), **flooding).valve)
        self.assertEqual(self.said(of=plate("fixed_orifice"), **flooding).valve, "")

    def test_two_at_once_give_their_order(self):
        case_ = case(suct=106, liq=300, sl=56, ll=95, oa=86, ra=76)
        weighing = weigh(MODELS["valve"], departures(case_), Told(likelier={"filter_dirty": 1e5}))
        said = diagnose(case_, weighing, 4, doubted=False)
        self.assertEqual(len(said.faults), 2)
        self.assertIn("In this order because", said.act)


if __name__ == "__main__":
    unittest.main()
