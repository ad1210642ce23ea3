"""What a column of a log is: its point by its heading, its unit by heading, cells or size."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from nudge.core.language.callout.spoken_units import unit_said
from nudge.core.language.errors import CoreError
from nudge.core.language.units import Quantity
from nudge.core.language.vocabulary.points import POINTS

NUMBER = re.compile(r"\s*([-+−]?[\d.,]*\d(?:[eE][-+]?\d+)?)\s*(.*?)\s*$")


@dataclass(frozen=True, slots=True)
class Column:
    """What one column is: nothing (`point` ""), or a point in a unit."""

    name: str
    point: str = ""
    unit: str = ""


_WORDS: tuple[tuple[str, str], ...] = (
    (r"suction.*(sat|evap)|(sat|evap).*suction|evap.*sat|condens.*sat|superheat|subcool", ""),
    (r"true.*suction", "true_suction_temp"),
    (r"discharge.*pres|pres.*discharge", "discharge_pressure"),
    (r"(suction|low|vapou?r).*(pres|psi|bar|kpa)|low.?side|^lp$|^sp$", "suction_pressure"),
    (r"(liquid|high|head).*(pres|psi|bar|kpa)|high.?side|^hp$", "liquid_pressure"),
    (r"discharge|^dlt$", "discharge_line_temp"),
    (r"liquid.*indoor|indoor.*liquid", "liquid_line_temp_indoor"),
    (r"evap.*out|coil.*(out|end)|defrost.*(probe|sensor|coil)", "evaporator_outlet_temp"),
    (r"set.?point|setpoint", ""),
    (r"\b(box|room|chamber|cabinet|freezer|cooler|cold store)\b(?!.*(rh|hum))", "box_air_temp"),
    (r"\bvent\b", "vent_air_temp"),
    (r"suction|vapou?r|^slt?$|^sl\b", "suction_line_temp"),
    (r"liquid|^llt?$|^ll\b", "liquid_line_temp"),
    (r"(outdoor|ambient|outside|^oat?$|^oa\b)", "outdoor_air_temp"),
    (r"return.*(wet|wb)|(wet|wb).*return|^wb\b", "return_air_wet_bulb"),
    (r"supply.*(wet|wb)|(wet|wb).*supply", "supply_air_wet_bulb"),
    (r"return.*(rh|hum)", "return_air_rh"),
    (r"supply.*(rh|hum)", "supply_air_rh"),
    (r"return|^rat?$|^ra\b", "return_air_temp"),
    (r"supply|^sat$|^sa\b", "supply_air_temp"),
    (r"static|tesp", "total_external_static"),
    (r"compressor.*(amp|cur|\ba\b)|^amps?$", "compressor_amps"),
    (r"power|watt", "outdoor_unit_watts"),
    (r"airflow|cfm", "airflow"),
    (r"cylinder|scale|weight", "cylinder_weight"),
    (r"vacuum|micron", "vacuum_level"),
)


def guess_column(name: str, values: Sequence[str], used: set[str] | frozenset[str]) -> Column:
    """Which point a column is, by its heading, and in which unit, by heading, cells or size."""
    lowered = re.sub(r"[_\-/()\[\]°.]+", " ", name.lower()).strip()
    exact = name.strip().lower().replace(" ", "_")
    key = exact if exact in POINTS else ""
    if not key:
        for pattern, wanted in _WORDS:
            if re.search(pattern, lowered):
                key = wanted
                break
    if not key or key in used or not any(NUMBER.match(v) for v in values[:5]):
        return Column(name)
    return Column(name, key, _guess_unit(POINTS[key].quantity, name, values))


_UNIT_WORDS = re.compile(
    r"(psig?|kpa|bar|°\s*f|°\s*c|deg\s*f|deg\s*c|\bf\b|\bc\b|cfm|l/s|in\.?\s*w\.?c\.?|inwc|\bpa\b"
    r"|\blbs?\b|\boz\b|\bkg\b|\bg\b|microns?|amps?|\ba\b|watts?|\bw\b|%)",
    re.I,
)
_SPELLED = {
    "degf": "f",
    "degc": "c",
    "°f": "f",
    "°c": "c",
    "amps": "a",
    "amp": "a",
    "watts": "w",
    "watt": "w",
    "lbs": "lb",
    "in.w.c.": "inwc",
    "inw.c.": "inwc",
}


def unit_in(text: str) -> str:
    found = _UNIT_WORDS.findall(text)
    if not found:
        return ""
    word = re.sub(r"\s+", "", found[-1].lower())
    return _SPELLED.get(word, word)


def units_in_cells(values: Sequence[str]) -> str:
    found = [NUMBER.match(v) for v in values[:5]]
    words = [m[2] for m in found if m and m[2]]
    return words[0] if words and len(words) == len(found) else ""


def _guess_unit(quantity: Quantity, name: str, values: Sequence[str]) -> str:
    for word in (unit_in(name), units_in_cells(values)):
        if word:
            try:
                return unit_said(word, quantity).label
            except CoreError:
                continue
    numbers = sorted(
        float(m[1].replace(",", ""))
        for v in values
        if (m := re.match(r"\s*(-?[\d.]+)", v)) and m[1].strip(".")
    )
    middle = numbers[len(numbers) // 2] if numbers else 0.0
    if quantity is Quantity.PRESSURE:
        return "bar" if abs(middle) < 45 else "psig" if abs(middle) < 650 else "kPa"
    if quantity is Quantity.TEMPERATURE:
        return "°C" if middle < 48 and max(numbers, default=0) < 60 else "°F"
    if quantity is Quantity.STATIC_PRESSURE:
        return "in. w.c." if abs(middle) < 3 else "Pa"
    return _USUAL.get(quantity, "")


_USUAL = {
    Quantity.AIRFLOW: "CFM",
    Quantity.MASS: "lb",
    Quantity.VACUUM: "micron",
    Quantity.CURRENT: "A",
    Quantity.HUMIDITY: "%",
    Quantity.POWER: "W",
    Quantity.VOLTAGE: "V",
    Quantity.CAPACITANCE: "µF",
}
