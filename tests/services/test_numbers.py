"""Own history, default methods, charts kept with a system: what services make of them."""

import unittest

from nudge.core.language.errors import CoreError, UnknownName
from nudge.core.physics.chart.chart_text import UnreadableChart
from nudge.core.visit.record.kept import Kept
from nudge.services.book import Book
from nudge.services.errors import NotFound
from nudge.services.history import own_history
from nudge.services.methods import Methods, check_method, preferred_methods
from nudge.services.plates import plate_of, readable_charts
from nudge.services.pocket_slips import readings_of
from nudge.store.tables import ChartRow, System
from tests.temporary import WithDatabase

CHART = "75;11\n95;9"


def verdict(advice: str = "leave", hazards: int = 0, **derived: float) -> Kept:
    return Kept(advice, "", "", ("dry",) * hazards, {}, derived)


class HistoryTest(unittest.TestCase):
    def test_the_middle_of_the_last_right_ones_in_core_units(self):
        # The outlier of one visit does not move the middle.
        earlier = [verdict(condensing_over_ambient=c) for c in (10.0, 9.0, 22.0)]
        own = own_history(earlier)
        self.assertAlmostEqual(own.condensing_over_ambient or 0, 10.0)
        self.assertIsNone(own.approach)

    def test_only_visits_that_were_right_count(self):
        earlier = [
            verdict("add", approach=30.0),
            verdict("leave", hazards=1, approach=30.0),
            verdict("do_not_charge", approach=30.0),
            verdict(approach=5.0),
        ]
        self.assertAlmostEqual(own_history(earlier).approach or 0, 5.0)
        self.assertIsNone(own_history(earlier[:3]).approach)

    def test_what_was_long_ago_does_not_count(self):
        earlier = [verdict(approach=5.0)] * 5 + [verdict(approach=90.0)] * 20
        self.assertAlmostEqual(own_history(earlier).approach or 0, 5.0)


class MethodsTest(WithDatabase):
    def setUp(self) -> None:
        super().setUp()
        self.methods = Methods(self.database, self.clock)

    def test_a_choice_is_kept_and_can_be_taken_back(self):
        self.methods.choose("orifice_method", "formula_superheat")
        again = Methods(self.database, self.clock)
        self.assertEqual(again.chosen()["orifice_method"], "formula_superheat")
        again.choose("orifice_method", "")
        self.assertEqual(self.methods.chosen()["orifice_method"], "")

    def test_a_school_that_does_not_fit_is_refused_and_nothing_changes(self):
        self.methods.choose("valve_method", "plate_approach")
        for method, error in (("formula_superheat", CoreError), ("by_feel", UnknownName)):
            with self.assertRaises(error):
                self.methods.choose("valve_method", method)
        with self.assertRaises(UnknownName):
            self.methods.choose("colour", "plate_approach")
        self.assertEqual(self.methods.chosen()["valve_method"], "plate_approach")

    def test_the_systems_own_comes_before_the_workshops(self):
        chosen = {"valve_method": "chart_subcooling", "orifice_method": "formula_superheat"}
        for device, own, wanted in (
            ("txv", "", ("chart_subcooling",)),
            ("eev", "plate_approach", ("plate_approach", "chart_subcooling")),
            ("fixed_orifice", "", ("formula_superheat",)),
        ):
            row = System(metering_device=device, method=own)
            self.assertEqual(preferred_methods(row, chosen), wanted)
        self.assertEqual(check_method(""), "")


class ChartsTest(WithDatabase):
    def setUp(self) -> None:
        super().setUp()
        self.book = Book(self.database, self.clock)

    def kept(self) -> list[str]:
        row = self.book.system("net-loft-heat-pump").system
        return [kept.text for kept, _, _ in readable_charts(row)]

    def test_the_latest_of_a_kind_counts_and_the_same_id_once(self):
        for chart_id, text in (("a", CHART), ("b", "75;12\n95;10"), ("b", CHART)):
            self.book.set_chart("net-loft-heat-pump", chart_id, "subcooling_by_outdoor", text, "ip")
        self.assertEqual(self.kept(), ["75;12\n95;10"])
        self.book.set_chart("net-loft-heat-pump", "c", "subcooling_by_outdoor", " ", "ip")
        self.assertEqual(self.kept(), [])

    def test_refused_charts_change_nothing(self):
        self.book.set_chart("net-loft-heat-pump", "a", "subcooling_by_outdoor", CHART, "ip")
        with self.assertRaises(UnreadableChart):
            self.book.set_chart("net-loft-heat-pump", "b", "subcooling_by_outdoor", "75;11", "ip")
        with self.assertRaises(UnknownName):
            self.book.set_chart("net-loft-heat-pump", "b", "subcooling_by_moon", CHART, "ip")
        with self.assertRaises(NotFound):
            self.book.set_chart("nowhere", "b", "subcooling_by_outdoor", CHART, "ip")
        self.assertEqual(self.kept(), [CHART])

    def test_a_chart_written_in_si_is_read_in_si(self):
        self.book.set_chart("net-loft-heat-pump", "a", "subcooling_by_outdoor", "25;6\n35;5", "si")
        plate = plate_of(self.book.system("net-loft-heat-pump").system)
        chart = plate.chart("subcooling_by_outdoor")
        assert chart is not None
        self.assertEqual((chart.rows, chart.cells), ((25.0, 35.0), ((6.0,), (5.0,))))

    def test_a_chart_a_stricter_nudge_refuses_is_left_out_and_kept(self):
        row = self.book.system("net-loft-heat-pump").system
        bad = ChartRow(
            id="x", kind="subcooling_by_outdoor", text="75;11", units="ip", recorded_at=self.clock()
        )
        row.charts.append(bad)
        self.assertEqual(readable_charts(row), [])
        self.assertEqual(plate_of(row).charts, ())


class SlipsTest(unittest.TestCase):
    def test_the_readings_a_slip_brings(self):
        entries = {
            "suction_pressure": 8.1,
            "suction_line_temp": 11.0,
            "refrigerant": "R-32",
            "pressure": 9.0,
        }
        sent = readings_of("circuit", entries, "si_bar")
        self.assertEqual(
            [(one.point, one.value, one.unit, one.source) for one in sent],
            [("suction_pressure", 8.1, "bar", "typed"), ("suction_line_temp", 11.0, "°C", "typed")],
        )

    def test_what_was_read_is_not_worked_out_over(self):
        entries = {
            "airflow": 1150.0,
            "supply_air_temp": 58.0,
            "strip_volts": 240.0,
            "strip_circuit_amps": 40.0,
            "return_air_temp": 70.0,
            "heated_air_temp": 98.0,
        }
        sent = {one.point: one for one in readings_of("airflow", entries, "ip")}
        self.assertEqual((sent["airflow"].value, sent["airflow"].source), (1150.0, "typed"))

    def test_an_empty_or_refused_slip_is_not_sent(self):
        for entries in ({}, {"pressure": 9_999.0}, {"pressure": "x"}):
            with self.subTest(entries), self.assertRaises(CoreError):
                readings_of("saturation", entries, "ip")  # type: ignore[arg-type]
        with self.assertRaises(UnknownName):
            readings_of("saturaton", {}, "ip")
