"""The cylinder shelf of the Skerrow van: one of them lost weight between two calls."""

from nudge.core.language.units import KPA_PER_PSI
from nudge.services.cylinders import Made

BOUGHT_DAYS_AGO = 520
CARRIED_FOR_DAYS = 800

INSTRUMENTS: tuple[tuple[str, str, str, float | None, int, int | None], ...] = (
    ("reg-gauges", "Van’s gauge set", "gauges", 3.45, 210, 900),
    ("reg-clamps", "Four pipe clamps", "clamps", 0.4, 210, None),
    ("reg-air", "Two air probes", "air_probes", 0.4, 210, None),
    ("reg-humidity", "Humidity probe", "humidity_probe", None, -40, None),
    ("reg-scale", "Charging scale", "scale", None, 120, None),
)
"""What is carried: id, name, kind, ± [core units], days to its calibration, age of its hoses."""
CYLINDERS = (
    ("shelf-410", "410 with the red tape", "R-410A", "charging", 4.4, 15.7, None),
    ("shelf-22", "Old 22, reclaimed", "R-22", "charging", 4.9, 12.4, None),
    ("shelf-454", "454B, left-hand thread", "R-454B", "charging", 4.7, 13.8, None),
    ("shelf-32", "32 for the inverters", "R-32", "charging", 4.1, 10.9, None),
    ("shelf-407", "407C with the dented collar", "R-407C", "charging", 4.6, 12.1, None),
    ("shelf-recovery", "Recovery, 410", "R-410A", "recovery", 11.8, 16.9, 21.6),
)
"""Id, name, refrigerant, kind, tare and gross when it came [kg], water capacity [kg]."""

CYLINDER_OF = {
    "R-410A": "shelf-410",
    "R-22": "shelf-22",
    "R-454B": "shelf-454",
    "R-32": "shelf-32",
    "R-407C": "shelf-407",
}

WEIGHED = (
    (64, "shelf-407", 0.0),
    (31, "shelf-410", 0.01),
    (31, "shelf-recovery", -0.008),
    (9, "shelf-407", 0.62),
    (5, "shelf-454", 0.0),
)
"""Days ago, cylinder, and how much was gone by then [kg]: 22 oz of R-407C between two calls."""

RECOVERY_MARKS = Made("clean", takes_flammable=False, rated_kpa=400 * KPA_PER_PSI)
"""What the collar of the recovery cylinder says; its test date nobody wrote down yet."""
