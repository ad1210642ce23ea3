"""Line set and charge, cylinder, capacitor, strips, nitrogen, leak rate."""

from dataclasses import replace

from nudge.core.calculators.blanks import given
from nudge.core.calculators.refrigerant_slips import plate_of
from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome, needs
from nudge.core.calculators.vacuum_slip import VACUUM
from nudge.core.charging.cylinder import check_cylinder, recovery_limit_kg
from nudge.core.charging.leak_rate import LEAK_THRESHOLDS, annualised, rolling
from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity, atmospheric_kpa
from nudge.core.language.working import Formula, Input, Values, Working, work
from nudge.core.physics.circuit.tubes import hose_contents, hose_named
from nudge.core.physics.circuit.weigh_in import as_lines, weigh_in
from nudge.core.physics.electrical import capacitor, strips
from nudge.core.physics.tightness import pressure_test
from nudge.core.physics.tightness.leak import lost_a_year
from nudge.core.physics.tightness.standing_pressure import read_stand

_T, _P = Quantity.TEMPERATURE, Quantity.PRESSURE

HOSE = Formula(
    "hose_contents",
    "A full liquid hose holds",
    Quantity.SMALL_MASS,
    "Bleed it back into the suction side before disconnecting, or count it.",
    "bore area × length × liquid density at {t85}",
    "{hose_length} of hose = {result}",
    ("hose_length",),
    "Usual bores; density from the packaged tables.",
)


def charge(entered: Entered) -> SlipOutcome:
    """The weigh-in sheet, and what the hoses hold."""
    sheet = weigh_in(plate_of(entered))
    lines = [SlipLine(working) for working in as_lines(sheet).values()]
    if "hose_length" in entered:
        hose, fluid = hose_named(entered.pick("hose_size")), entered.pick("refrigerant")
        held = given(entered, "hose_length")
        lines.append(
            SlipLine(work(HOSE, lambda v: hose_contents(fluid, hose, v["hose_length"]), held))
        )
    asks = tuple(label[:1].lower() + label[1:] for label in sheet.missing)
    return SlipOutcome(tuple(lines), sheet.notes if sheet.line_charge else (), asks)


CYLINDER = Formula(
    "cylinder_expected",
    "Pressure it should show",
    _P,
    "Liquid in a closed cylinder sits at its own saturation. More is air, less is no liquid.",
    "bubble pressure at the cylinder's temperature",
    "bubble pressure at {cylinder_temp} = {result}",
    ("cylinder_temp",),
    "Packaged saturation tables.",
)
LIMIT = Formula(
    "recovery_limit",
    "Recovery limit, net",
    Quantity.MASS,
    "Most refrigerant a recovery cylinder may hold: 80 % of its volume.",
    "0.8 × water capacity × specific gravity at {t77}",
    "0.8 × {water_capacity} × specific gravity = {result}",
    ("water_capacity",),
    "Trade rule; the cylinder's stamp wins.",
)
GROSS = Formula(
    "recovery_gross",
    "Stop at, on the scale",
    Quantity.MASS,
    "What the scale may show at most: limit and empty cylinder.",
    "limit + tare",
    "{recovery_limit} + {cylinder_tare} = {result}",
    ("recovery_limit", "cylinder_tare"),
    "Trade rule; the cylinder's stamp wins.",
)


def cylinder(entered: Entered) -> SlipOutcome:
    """What a cylinder should show, and how full it may be."""
    fluid, elevation = entered.pick("refrigerant"), entered.get("elevation", 0.0)
    lines, words = [], []
    if "cylinder_temp" in entered:
        checked = check_cylinder(
            fluid, entered["cylinder_temp"], entered.get("cylinder_pressure"), elevation
        )
        formula = replace(CYLINDER, own_error=checked.tolerance_kpa)

        def should_show(values: Values) -> float:
            return check_cylinder(fluid, values["cylinder_temp"], None, elevation).expected_kpa

        lines.append(SlipLine(work(formula, should_show, given(entered, "cylinder_temp"))))
        if checked.said is not None:
            words.append(checked.said)
    if "water_capacity" in entered:
        limit = work(
            LIMIT,
            lambda v: recovery_limit_kg(fluid, v["water_capacity"]),
            given(entered, "water_capacity"),
        )
        lines.append(SlipLine(limit))
        if "cylinder_tare" in entered:
            both = given(entered, "cylinder_tare")
            both["recovery_limit"] = _computed(limit)
            lines.append(
                SlipLine(work(GROSS, lambda v: v["recovery_limit"] + v["cylinder_tare"], both))
            )
    asks = () if lines else ("the cylinder's temperature, or its water capacity",)
    return SlipOutcome(tuple(lines), tuple(words), asks)


def run_capacitor(entered: Entered) -> SlipOutcome:
    """Measured off the circuit, or from amps and volts under load, against the label."""
    lines = []
    measured, off = entered.get("capacitor_measured"), None
    if measured is None and entered.has("capacitor_amps", "capacitor_volts"):
        under_load = capacitor.capacitance_under_load(
            entered["capacitor_amps"],
            entered["capacitor_volts"],
            float(entered.pick("mains_hertz")),
        )
        lines.append(SlipLine(under_load))
        measured, off = under_load.value, under_load.uncertainty
    if measured is None or "capacitor_rated" not in entered:
        asks = needs(entered, {"capacitor_rated": "what its label says"})
        return SlipOutcome(
            tuple(lines), (), (*asks, *(("what it measures",) if measured is None else ()))
        )
    tolerance = entered["capacitor_tolerance"]
    working, rule = capacitor.judge_capacitor(entered["capacitor_rated"], measured, tolerance, off)
    lines.append(SlipLine(working, -tolerance, tolerance, "label"))
    return SlipOutcome(tuple(lines), (Said(rule.sentence),))


def heat_strips(entered: Entered) -> SlipOutcome:
    """What a circuit of strips should draw, and how many draw."""
    if "strip_kw" not in entered:
        return SlipOutcome(needs=("the kilowatts of one strip",))
    rated = entered["strip_rated_volts"]
    each = strips.strip_amps_each(entered["strip_kw"], entered.get("line_volts", rated), rated)
    found, said = strips.judge_circuit(
        each, entered["strips_on_circuit"], entered.get("strip_amps")
    )
    lines = tuple(SlipLine(working) for working in (each, *found))
    return SlipOutcome(lines, (said,) if said else ())


def nitrogen(entered: Entered) -> SlipOutcome:
    """A standing test, corrected for temperature."""
    asks = needs(
        entered,
        {
            "test_pressure_start": "pressure at the start",
            "test_temp_start": "temperature at the start",
            "test_temp_now": "temperature now",
        },
    )
    if asks:
        return SlipOutcome(needs=asks)
    test = pressure_test.pressure_test(
        entered["test_pressure_start"],
        entered["test_temp_start"],
        entered["test_temp_now"],
        entered.get("test_pressure_now"),
        entered.get("test_minutes"),
        entered.get("elevation", 0.0),
    )
    excluded = _excludes(entered)
    lines = [SlipLine(test.expected)]
    if test.lost is not None:
        off = test.lost.uncertainty or 0.0
        lines.append(SlipLine(test.lost, -off, off, "what these instruments can tell"))
    return SlipOutcome(
        tuple(lines), (*test.said, *excluded), () if test.lost else ("pressure now",)
    )


def _excludes(entered: Entered) -> tuple[Said, ...]:
    """What a stand of so many minutes excludes, in a room of so many litres."""
    if not entered.has("test_pressure_now", "test_minutes", "inside_volume"):
        return ()
    atmosphere = atmospheric_kpa(entered.get("elevation", 0.0))
    start = entered["test_pressure_start"] + atmosphere
    stand = read_stand(
        (0.0, entered["test_minutes"]),
        (start, entered["test_pressure_now"] + atmosphere),
        (entered["test_temp_start"], entered["test_temp_now"]),
        entered["inside_volume"],
    )
    if stand.excludes is None:
        return ()
    yearly = lost_a_year(entered.pick("refrigerant"), stand.excludes, start)
    return (
        say(
            f"It excludes only leaks over {{leak}} of {entered.pick('refrigerant')} a year.",
            leak=Measure(yearly, Quantity.YEARLY_LOSS),
        ),
    )


def leak_rate(entered: Entered) -> SlipOutcome:
    """Annualised and rolling, beside the thresholds."""
    if "full_charge" not in entered:
        return SlipOutcome(needs=("the full charge",))
    full, lines = entered["full_charge"], []
    if entered.has("added", "days"):
        lines.append(SlipLine(annualised(entered["added"], full, entered["days"])))
    if "added_in_year" in entered:
        lines.append(SlipLine(rolling(entered["added_in_year"], full)))
    examples = ", ".join(f"{row.label.lower()} {row.percent:g} %" for row in LEAK_THRESHOLDS)
    words = (say(f"Rule books act at about: {examples} a year. Local code decides."),)
    if not lines:
        return SlipOutcome((), words, ("what was added, and the days since the last addition",))
    return SlipOutcome(
        tuple(lines), (*words, say("A system does not use refrigerant up: find the leak."))
    )


def _computed(working: Working) -> Input:
    formula = working.formula
    return Input(formula.key, formula.label, working.measure, "computed", working.uncertainty)


SLIPS = (
    Slip("charge", "Line set and charge",
         ("refrigerant", "factory_charge", "line_set_length", "line_length_included",
          "liquid_tube", "vapour_tube"), charge,
         say("Butyl gloves and eye protection. Licensed persons only; the plate comes first."),
         seldom=("charge_per_length", "coil_adder", "drier_adder", "hose_size", "hose_length")),
    Slip("cylinder", "Cylinder", ("refrigerant", "cylinder_temp", "cylinder_pressure"),
         cylinder, say("Never over 80 % full: liquid that warms up has nowhere to go."),
         seldom=("water_capacity", "cylinder_tare", "elevation")),
    Slip("capacitor", "Run capacitor",
         ("capacitor_rated", "capacitor_measured"), run_capacitor, capacitor.CAUTION,
         seldom=("capacitor_tolerance", "capacitor_amps", "capacitor_volts", "mains_hertz")),
    Slip("strips", "Heat strips",
         ("strip_kw", "line_volts", "strips_on_circuit", "strip_amps"), heat_strips,
         strips.CAUTION, seldom=("strip_rated_volts",)),
    Slip("nitrogen", "Nitrogen test",
         ("test_pressure_start", "test_temp_start", "test_pressure_now", "test_temp_now"),
         nitrogen, pressure_test.CAUTION,
         seldom=("test_minutes", "inside_volume", "refrigerant", "elevation")),
    VACUUM,
    Slip("leak_rate", "Leak rate", ("full_charge", "added", "days", "added_in_year"), leak_rate),
)  # fmt: skip
