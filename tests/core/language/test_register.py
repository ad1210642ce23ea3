"""An instrument's own ± counts in place of its kind's; out of calibration it counts twice."""

import unittest

from nudge.core.behaviours.case import Context, open_case
from nudge.core.behaviours.workings import derived_workings
from nudge.core.language.errors import Impossible, UnknownName
from nudge.core.language.units import degrees_f
from nudge.core.language.vocabulary.accuracy import ACCURACY, accuracy_of
from nudge.core.language.vocabulary.register import (
    INSTRUMENT_SORTS,
    Carried,
    check_fixed,
    own_accuracies,
    sort_named,
)
from nudge.core.physics.circuit.equipment import MeteringDevice, Plate

READINGS = {"suction_pressure": 820.0, "suction_line_temp": 12.0}


def superheat_error(*carried):
    context = Context(instruments=own_accuracies(carried))
    case = open_case(Plate("R-410A", MeteringDevice.TXV), READINGS, context)
    return derived_workings(case, {})["superheat"].uncertainty


class RegisterTest(unittest.TestCase):
    def test_better_clamps_make_a_surer_superheat_and_lapsed_ones_a_worse(self):
        usual = superheat_error()
        better = superheat_error(Carried("clamps", degrees_f(0.4)))
        lapsed = superheat_error(Carried("clamps", is_lapsed=True))
        self.assertLess(better, usual)
        self.assertGreater(lapsed, usual)
        # With the gauge's part g and the clamp's 0.556 K: usual² = g² + 0.556²; with 0.222 K the
        # difference of the squares is 0.556² - 0.222².
        self.assertAlmostEqual(usual**2 - better**2, 0.5556**2 - 0.2222**2, delta=0.01)
        self.assertAlmostEqual(lapsed**2 - usual**2, 3 * 0.5556**2, delta=0.01)

    def test_of_several_of_a_kind_the_worst_counts(self):
        own = own_accuracies([Carried("gauges", 3.0), Carried("gauges", 20.0)])
        self.assertEqual(accuracy_of("suction_pressure", own).fixed, 20.0)
        self.assertEqual(accuracy_of("suction_line_temp", own), ACCURACY["line_temp"])

    def test_air_probes_read_both_bulbs(self):
        own = own_accuracies([Carried("air_probes", 0.2)])
        for point in ("return_air_temp", "return_air_wet_bulb", "box_air_temp"):
            self.assertEqual(accuracy_of(point, own).fixed, 0.2, point)

    def test_hoses_read_nothing(self):
        self.assertEqual(own_accuracies([Carried("hoses")]), {})

    def test_what_no_such_instrument_errs_is_refused(self):
        gauges = INSTRUMENT_SORTS["gauges"]
        for kpa in (0.001, 500.0):
            with self.subTest(kpa), self.assertRaises(Impossible):
                check_fixed(gauges, kpa)
        check_fixed(gauges, 3.4)
        with self.assertRaisesRegex(UnknownName, "gauges"):
            sort_named("guages")
