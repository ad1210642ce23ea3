"""Every slip against sums done by hand, in field units. The sum stands beside each row."""

import unittest

from nudge.core.calculators.pocket import fill_pocket
from nudge.core.calculators.slip import SlipLine
from nudge.core.language.units import from_si

AIR = {"return_air_temp": 80.0, "return_air_wet_bulb": 67.0}
RATED = AIR | {"outdoor_air_temp": 95.0}
STRIPS = {"strip_volts": 240.0, "strip_circuit_amps": 40.0, "return_air_temp": 70.0}
LINE = {
    "factory_charge": 8.0,
    "line_set_length": 40.0,
    "line_length_included": 15.0,
    "charge_per_length": 0.6,
}
GAS = {"test_pressure_start": 200.0, "test_temp_start": 90.0, "test_temp_now": 90.0}

CASES: tuple[tuple[str, dict[str, float | str], str, float, float], ...] = (
    # slip, entries, number, by hand, ±
    # R-22 boils at -40.8 °C (-41.4 °F) at 0 psig; R-134a at -26.1 °C (-14.9 °F): ASHRAE 34.
    ("saturation", {"refrigerant": "R-22", "pressure": 0.0}, "dew", -41.4, 0.3),
    ("saturation", {"refrigerant": "R-134a", "pressure": 0.0}, "dew", -14.9, 0.3),
    # Published pressure-temperature cards: R-22 at 40 °F 68.5 psig; R-410A at 40 °F 118 psig.
    ("saturation", {"refrigerant": "R-22", "temperature": 40.0}, "bubble_pressure", 68.6, 0.5),
    ("saturation", {"refrigerant": "R-410A", "temperature": 40.0}, "bubble_pressure", 118.5, 0.8),
    # At 5,000 ft air is 12.23 psia, 2.47 under sea level: a gauge at 0 is that much lower.
    ("saturation", {"refrigerant": "R-22", "temperature": 40.0, "elevation": 5000.0},
     "bubble_pressure", 71.1, 0.6),
    # (3 x 67 - 80 - 95) / 2 = 13; (3 x 60 - 80 - 90) / 2 = 5
    ("target_superheat", {"return_air_wet_bulb": 67.0, "outdoor_air_temp": 95.0},
     "target_superheat_by_air", 13.0, 0.01),
    ("target_superheat", {"return_air_wet_bulb": 60.0, "outdoor_air_temp": 90.0},
     "target_superheat_by_air", 5.0, 0.01),
    # 9,600 W x 3.412 / (1.08 x 30) = 1,011 standard CFM; 70 °F air is close to standard.
    ("airflow", STRIPS | {"heated_air_temp": 100.0}, "airflow_by_strips", 1011, 25),
    ("airflow", STRIPS | {"heated_air_temp": 85.0}, "airflow_by_strips", 2022, 50),
    # 3 tons x 400, 350, 310, 450.
    ("airflow", {"nominal_capacity": 36000.0}, "airflow_target", 1200, 1),
    ("airflow", {"nominal_capacity": 36000.0, "climate": "humid"}, "airflow_target", 1050, 1),
    ("airflow", {"nominal_capacity": 36000.0, "climate": "drying"}, "airflow_target", 930, 1),
    ("airflow", {"nominal_capacity": 36000.0, "climate": "dry"}, "airflow_target", 1350, 1),
    # 0.25 - (-0.40)
    ("airflow", {"supply_static": 0.25, "return_static": -0.4}, "external_static", 0.65, 0.001),
    # 110 °F air at 1 atm is 13.33 / 14.36 as dense as at 70: 1,000 CFM counts as about 925.
    ("airflow", {"airflow": 1000.0, "supply_air_temp": 110.0}, "airflow_measured", 905, 20),
    # The coil's sanity figures, and 450 CFM per ton splits less.
    ("split", RATED, "expected_split", 19.6, 0.5),
    ("split", RATED | {"airflow_per_ton": 450.0}, "expected_split", 18.3, 0.6),
    ("split", RATED | {"nominal_capacity": 36000.0}, "expected_capacity", 36000, 10),
    # Five degrees of wet bulb are 6.75 %.
    ("split", RATED | {"return_air_wet_bulb": 72.0, "nominal_capacity": 36000.0},
     "expected_capacity", 38430, 20),
    ("split", RATED | {"supply_air_temp": 61.5}, "temperature_split", 18.5, 0.001),
    # Chart 1: 80/67 °F holds 78.5 grains, 51 %, dew point 60.3.
    ("air", AIR, "moisture", 78.5, 0.8),
    ("air", AIR, "relative_humidity", 51.0, 1.0),
    ("air", AIR, "dew_point", 60.3, 0.5),
    # (40 - 15) x 0.6 = 15 oz on 8 lb: 8.9375 lb.
    ("charge", LINE, "line_charge", 0.9375, 0.001),
    ("charge", LINE, "total_charge", 8.9375, 0.001),
    ("charge", LINE | {"coil_adder": 6.0, "drier_adder": 2.0}, "total_charge", 9.4375, 0.001),
    # 10 ft of 1/4 in. hose, 3/16 bore: 0.1917 in² ... 3.31 in³ x 0.0364 lb/in³ = 1.9 oz.
    ("charge", {"hose_length": 10.0}, "hose_contents", 2.0, 0.1),
    # A 3/8 hose has (5/3)² of that.
    ("charge", {"hose_length": 10.0, "hose_size": "3/8"}, "hose_contents", 5.5, 0.3),
    # R-410A at 90 °F: 274 psig.
    ("cylinder", {"cylinder_temp": 90.0}, "cylinder_expected", 274.5, 1.5),
    # R-22 liquid at 77 °F is 1.19 of water: 0.8 x 50 x 1.19 = 47.8 lb, and 28 of tare.
    ("cylinder", {"refrigerant": "R-22", "water_capacity": 50.0}, "recovery_limit", 47.7, 0.4),
    ("cylinder", {"refrigerant": "R-22", "water_capacity": 50.0, "cylinder_tare": 28.0},
     "recovery_gross", 75.7, 0.4),
    ("capacitor", {"capacitor_rated": 40.0, "capacitor_measured": 36.0}, "capacitor_deviation",
     -10.0, 0.001),
    # 2652 x 3.5 / 370 = 25.1 µF.
    ("capacitor", {"capacitor_amps": 3.5, "capacitor_volts": 370.0}, "capacitance", 25.1, 0.05),
    ("capacitor", {"capacitor_amps": 3.5, "capacitor_volts": 370.0, "mains_hertz": "50"},
     "capacitance", 30.1, 0.05),
    # 10 kW / 240 V = 41.7 A; at 230 V a resistor draws 39.9.
    ("strips", {"strip_kw": 10.0}, "strip_amps_each", 41.67, 0.01),
    ("strips", {"strip_kw": 10.0, "line_volts": 230.0}, "strip_amps_each", 39.93, 0.01),
    ("strips", {"strip_kw": 5.0, "strips_on_circuit": 3.0}, "strip_amps_circuit", 62.5, 0.01),
    # 214.7 psia x (459.67 + 70) / (459.67 + 90) = 206.9: 192.2 psig.
    ("nitrogen", GAS | {"test_temp_now": 70.0}, "test_pressure_expected", 191.93, 0.05),
    ("nitrogen", GAS | {"test_pressure_now": 194.0}, "test_pressure_lost", 6.0, 0.01),
    # 2 lb of 20 in half a year is 20 % a year.
    ("leak_rate", {"full_charge": 20.0, "added": 2.0, "days": 182.5}, "leak_rate_annualised", 20.0,
     0.001),
    ("leak_rate", {"full_charge": 20.0, "added_in_year": 3.0}, "leak_rate_rolling", 15.0, 0.001),
)  # fmt: skip


def line_of(slip: str, entries: dict[str, float | str], key: str) -> SlipLine:
    outcome = fill_pocket(entries, "ip", [slip]).filled[0].outcome
    return next(line for line in outcome.lines if line.working.formula.key == key)


class ByHandTest(unittest.TestCase):
    def test_every_sum(self):
        for slip, entries, key, by_hand, off in CASES:
            with self.subTest(slip=slip, key=key, entries=entries):
                working = line_of(slip, entries, key).working
                shown = from_si(working.value, working.formula.quantity, "ip")
                self.assertAlmostEqual(shown, by_hand, delta=off)

    def test_a_window_says_where_a_number_falls(self):
        for slip, entries, key, place in (
            (
                "airflow",
                STRIPS | {"heated_air_temp": 96.0, "nominal_capacity": 36000.0},
                "airflow_by_strips",
                "in",
            ),
            (
                "airflow",
                STRIPS | {"heated_air_temp": 110.0, "nominal_capacity": 36000.0},
                "airflow_by_strips",
                "low",
            ),
            ("split", RATED | {"supply_air_temp": 55.0}, "temperature_split", "high"),
            ("split", RATED | {"supply_air_temp": 66.0}, "temperature_split", "low"),
            (
                "capacitor",
                {"capacitor_rated": 40.0, "capacitor_measured": 43.0},
                "capacitor_deviation",
                "high",
            ),
            ("nitrogen", GAS | {"test_pressure_now": 199.8}, "test_pressure_lost", "in"),
        ):
            with self.subTest(key=key, entries=entries):
                self.assertEqual(line_of(slip, entries, key).place, place)

    def test_what_a_slip_says_in_words(self):
        for slip, entries, words in (
            ("saturation", {"refrigerant": "R-290"}, "Flammable (A3)"),
            ("saturation", {"refrigerant": "R-407C"}, "leaves the cylinder as liquid"),
            ("cylinder", {"cylinder_temp": 80.0, "cylinder_pressure": 150.0}, "no liquid left"),
            ("cylinder", {"cylinder_temp": 80.0, "cylinder_pressure": 290.0}, "Do not charge"),
            ("capacitor", {"capacitor_rated": 40.0, "capacitor_measured": 20.0}, "Worn out"),
            ("strips", {"strip_kw": 5.0, "strip_amps": 0.2}, "About 0 of 1"),
            (
                "airflow",
                {"blower_amps": 6.0, "blower_plate_amps": 4.0, "blower_motor": "psc"},
                "over its plate",
            ),
            ("leak_rate", {"full_charge": 5.0, "added": 1.0, "days": 30.0}, "find the leak"),
            ("circuit", {"suction_pressure": 300.0, "liquid_pressure": 120.0}, "exchanged"),
            # (3 x 57 - 80 - 90) / 2 = 0.5: under five; and 45 °F wet bulb is outside the fit
            (
                "target_superheat",
                {"return_air_wet_bulb": 57.0, "outdoor_air_temp": 90.0},
                "liquid may reach the compressor",
            ),
            (
                "target_superheat",
                {"return_air_wet_bulb": 45.0, "outdoor_air_temp": 90.0},
                "Outside what the rule was fitted to",
            ),
        ):
            with self.subTest(slip=slip):
                outcome = fill_pocket(entries, "ip", [slip]).filled[0].outcome
                self.assertIn(words, " ".join(said.text("ip") for said in outcome.words))

    def test_a_slip_names_what_it_still_needs(self):
        for slip, entries, wanted in (
            ("saturation", {}, "a pressure or a temperature"),
            ("circuit", {"suction_pressure": 118.0}, "suction pressure and line"),
            ("circuit", {"metering_device": "fixed_orifice"}, "return wet bulb"),
            ("split", {"return_air_temp": 75.0}, "return wet bulb"),
            ("air", {"return_air_wet_bulb": 60.0}, "return air"),
            ("charge", {"line_set_length": 30.0}, "factory charge"),
            ("capacitor", {"capacitor_rated": 40.0}, "what it measures"),
            ("nitrogen", GAS, "pressure now"),
            ("leak_rate", {"full_charge": 5.0}, "what was added"),
        ):
            with self.subTest(slip=slip):
                outcome = fill_pocket(entries, "ip", [slip]).filled[0].outcome
                self.assertIn(wanted, "; ".join(outcome.needs))
