"""What a house loses, and the outdoor temperature its heat pump just holds it at."""

from nudge.core.calculators.slip import Entered, Slip, SlipLine, SlipOutcome, needs
from nudge.core.language.said import Measure, Said, difference, say
from nudge.core.language.units import Quantity
from nudge.core.language.working import Formula, Input, work
from nudge.core.physics.heating.expected import HeatingPlate, expected_heat
from nudge.core.physics.heating.house import balance_point, loss_per_kelvin

RUN_ERROR = 0.05
"""How far a share of an hour is off by a watch (±)."""

LOSS = Formula(
    "house_loss",
    "House loses, a degree",
    Quantity.HEAT_LOSS,
    "Over an hour in which the house holds its temperature: what went into it, for each degree "
    "between indoors and outdoors. Sun and guests are heat as well: best at night.",
    "(heat expected × share of the hour it ran + strips' mean) ÷ (set point − outdoors)",
    "({heat} × {run_share} + strips) ÷ (set point − outdoors) = {result}",
    ("heat", "run_share", "strips", "indoors", "outdoors"),
    "Energy balance of the house over an hour.",
)
BALANCE = Formula(
    "balance_point",
    "Balance point",
    Quantity.TEMPERATURE,
    "Under it the pump alone falls short and strips have to help; over it they only cost.",
    "where the plate's line meets the house's loss",
    "the two lines meet at {result}",
    ("house_loss",),
    "The plate's rating points; the house's loss above.",
)


def house(entered: Entered) -> SlipOutcome:
    """Loss from an hour's running, and the balance point."""
    asks = needs(
        entered,
        {
            "heat_at_47": "heat at the mild point",
            "set_point": "what the thermostat holds",
            "outdoor_air_temp": "outdoor air",
            "run_share": "how much of an hour it ran",
        },
    )
    if asks:
        return SlipOutcome(needs=asks)
    plate = HeatingPlate(entered["heat_at_47"], entered.get("heat_at_17"))
    indoors, outdoors = entered["set_point"], entered["outdoor_air_temp"]
    heat = expected_heat(plate, outdoors)
    strips_w = 1000 * entered.get("strips_mean", 0.0)
    inputs = {
        "heat": Input("heat", heat.formula.label, heat.measure, "computed", heat.uncertainty),
        "run_share": Input(
            "run_share",
            "Of the hour it ran",
            Measure(entered["run_share"], Quantity.PERCENT),
            "typed",
            100 * RUN_ERROR,
        ),
        "strips": Input("strips", "Strips, mean", Measure(strips_w, Quantity.POWER), "typed"),
        "indoors": Input("indoors", "Set point", Measure(indoors, Quantity.TEMPERATURE), "typed"),
        "outdoors": Input("outdoors", "Outdoors", Measure(outdoors, Quantity.TEMPERATURE), "typed"),
    }
    loss = work(
        LOSS,
        lambda v: loss_per_kelvin(
            v["heat"] * v["run_share"] / 100 + v["strips"], v["indoors"], v["outdoors"]
        ),
        inputs,
    )
    lines, words = [SlipLine(loss)], list[Said]()
    even = balance_point(plate, loss.value, indoors)
    if even is None:
        words.append(say("The two lines do not meet: the pump holds this house in any weather."))
    else:
        given = {"house_loss": Input("house_loss", LOSS.label, loss.measure, "computed")}
        lines.append(SlipLine(work(BALANCE, lambda _: even, given)))
        words.append(
            say(
                "The pump alone holds the house down to {inside} under its set point; colder than "
                "that it wants help.",
                inside=difference(indoors - even),
            )
        )
    return SlipOutcome(tuple(lines), tuple(words))


HOUSE = Slip(
    "house",
    "A house’s loss",
    ("heat_at_47", "heat_at_17", "set_point", "outdoor_air_temp", "run_share", "strips_mean"),
    house,
)
