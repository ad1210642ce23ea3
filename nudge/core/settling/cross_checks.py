"""What one probe shows against the others: pressure, pipes, air and energy must agree."""

from collections.abc import Iterator
from statistics import median

from nudge.core.language.errors import CoreError
from nudge.core.language.said import difference, pressure_difference, say, temperature
from nudge.core.language.units import KPA_PER_PSI, atmospheric_kpa, degrees_f
from nudge.core.language.vocabulary.points import POINTS
from nudge.core.physics.air.coil import expected_coil
from nudge.core.physics.air.moist_air import moist_air
from nudge.core.physics.refrigerant.states import load_states
from nudge.core.physics.refrigerant.table import load_table
from nudge.core.settling.seen import Lie, Seen

ZERO_KPA = 3.0 * KPA_PER_PSI
STANDING_AIR_K = degrees_f(4)
UNDER_AMBIENT_K = degrees_f(2)
LEAST_OVER_AMBIENT_K = degrees_f(10)
NO_APPROACH_K = degrees_f(0.5)
LINE_GAIN_K = degrees_f(11)
GAS_COOLS_K = degrees_f(3)
DROP_K = degrees_f(7)
WELL_FED_K = degrees_f(14)
ORDINARY_SUPERHEAT_K = (degrees_f(2), degrees_f(20))
ORDINARY_SUBCOOLING_K = (degrees_f(2), degrees_f(22))
SAME_PIPE_K = degrees_f(3)
AIR_SAME_K = degrees_f(1)
COOLER_THAN_IDEAL_K = 8.0
WET_UNDER_DRY_K = degrees_f(1.8)
SPLIT_SHARE = 0.7
SETTLED_MINUTES, WARM_MINUTES = 8.0, 14.0
_ON_PIPES = (
    "suction_line_temp",
    "liquid_line_temp",
    "discharge_line_temp",
    "true_suction_temp",
    "drier_inlet_temp",
    "drier_outlet_temp",
)


def _label(point: str) -> str:
    return POINTS[point].label


def standing_zero(seen: Seen) -> Iterator[Lie]:
    """Standing, both pressures are the saturation of the coldest part that holds liquid."""
    low, high = (seen.standing.get(p) for p in ("suction_pressure", "liquid_pressure"))
    temps = [
        seen.standing[p] for p in ("outdoor_air_temp", "return_air_temp") if p in seen.standing
    ]
    if low is None or high is None or not temps or abs(low - high) < ZERO_KPA:
        return
    atmosphere, table = atmospheric_kpa(seen.elevation_m), load_table(seen.refrigerant)
    try:
        least = table.dew.pressure(min(temps)) - atmosphere - ZERO_KPA
        most = table.bubble.pressure(max(temps)) - atmosphere + ZERO_KPA
    except CoreError:
        return
    middle = table.bubble.pressure(min(temps)) - atmosphere

    def off(value: float) -> float:
        outside = max(least - value, value - most, 0.0)
        return outside if outside > 0 else abs(value - middle) / 1000

    point = "suction_pressure" if off(low) > off(high) else "liquid_pressure"
    yield Lie(
        "standing_zero",
        point,
        say(
            f"Standing, the two pressures were {{apart}} apart and should have been equal; "
            f"{_label(point).lower()} is the one further from the saturation of the air. Open it "
            f"to "
            "air and zero it.",
            apart=pressure_difference(abs(low - high)),
        ),
    )


def standing_air(seen: Seen) -> Iterator[Lie]:
    """Standing for long, every clamp on the outdoor unit is as warm as the air round it."""
    air = seen.standing.get("outdoor_air_temp")
    clamps = [seen.standing[p] for p in _ON_PIPES if p in seen.standing]
    if air is None or len(clamps) < 2 or max(clamps) - min(clamps) > STANDING_AIR_K:
        return
    apart = air - median(clamps)
    if abs(apart) > STANDING_AIR_K:
        yield Lie(
            "standing_air",
            "outdoor_air_temp",
            say(
                "Standing, outdoor air read {apart} away from every clamp on the unit. Shade the "
                "outdoor probe and hang it free, at coil height.",
                apart=difference(abs(apart)),
            ),
        )


def outdoor_too_warm(seen: Seen) -> Iterator[Lie]:
    if not (seen.ran(3) and seen.has("liquid_line_temp", "outdoor_air_temp")):
        return
    liquid, air, bubble = (
        seen.mean["liquid_line_temp"],
        seen.mean["outdoor_air_temp"],
        seen.bubble_c,
    )
    if bubble is None:
        return
    close = air - liquid > -NO_APPROACH_K and bubble - liquid > ORDINARY_SUBCOOLING_K[0]
    close = close and bubble - air < LEAST_OVER_AMBIENT_K - degrees_f(1)
    dew = seen.dew_c
    if dew is not None and "suction_line_temp" in seen.mean:
        # A starved system condenses hardly over its air: then nearness proves nothing.
        close = close and seen.mean["suction_line_temp"] - dew < ORDINARY_SUPERHEAT_K[1]
    if air - liquid <= UNDER_AMBIENT_K and not close:
        return
    if bubble - air < LEAST_OVER_AMBIENT_K:
        yield Lie(
            "outdoor_too_warm",
            "outdoor_air_temp",
            say(
                "Outdoor air reads {air}, over the liquid line and nearly at condensing. The probe "
                "is "
                "in the sun or in the discharge. Hang it in shade at coil height, free of the "
                "coil.",
                air=temperature(air),
            ),
        )
    else:
        yield Lie(
            "liquid_too_cold",
            "liquid_line_temp",
            say(
                "Liquid line {liquid} is under outdoor air {air}: air cannot cool it that far. "
                "Clean "
                "the pipe and insulate the clamp.",
                liquid=temperature(liquid),
                air=temperature(air),
            ),
        )


def wrong_pipe(seen: Seen) -> Iterator[Lie]:
    """Two clamps on one pipe: the one whose number is absurd is on the wrong one."""
    if not seen.ran(3):
        return
    for cold, warm, around in (
        ("suction_line_temp", "liquid_line_temp", "outdoor_air_temp"),
        ("evaporator_outlet_temp", "liquid_line_temp_indoor", "return_air_temp"),
    ):
        if not seen.has(cold, warm, around) or seen.dew_c is None or seen.bubble_c is None:
            continue
        if seen.bubble_c - seen.dew_c < 12:
            continue  # hardly any lift: every pipe is alike
        cold_c, warm_c = seen.mean[cold], seen.mean[warm]
        superheat, subcooling = cold_c - seen.dew_c, seen.bubble_c - warm_c
        if abs(cold_c - warm_c) < SAME_PIPE_K:
            point = cold if superheat > subcooling else warm
            # Suction gas is never warmer than all the air it has met; a starved coil's is as
            # warm as that air, and a restricted line's liquid as cold as suction.
            if (point == cold) != (cold_c > seen.mean[around] + AIR_SAME_K):
                continue
            if point == warm and superheat > ORDINARY_SUPERHEAT_K[1]:
                continue
            yield Lie(
                "wrong_pipe",
                point,
                say(
                    f"{_label(cold)} and {_label(warm).lower()} read alike: both clamps are on one "
                    f"pipe. Move the {_label(point).lower()} clamp to its own."
                ),
            )
        elif cold_c > warm_c + SAME_PIPE_K and warm_c - seen.dew_c > -degrees_f(2):
            yield Lie(
                "swapped",
                cold,
                say(
                    f"{_label(cold)} {{cold}} is warmer than {_label(warm).lower()} {{warm}}: the "
                    f"two "
                    "clamps are exchanged. Swap them here, or on the pipes.",
                    cold=temperature(cold_c),
                    warm=temperature(warm_c),
                ),
                swap_with=warm,
            )


def suction_dirt(seen: Seen) -> Iterator[Lie]:
    """From the coil outlet to the unit gas gains a few degrees and never loses any."""
    if not (seen.ran(5) and seen.has("suction_line_temp", "evaporator_outlet_temp")):
        return
    gain = seen.mean["suction_line_temp"] - seen.mean["evaporator_outlet_temp"]
    if gain > LINE_GAIN_K:
        yield Lie(
            "suction_dirt",
            "suction_line_temp",
            say(
                "Suction line reads {gain} over the coil outlet: too much for a line. Clean the "
                "pipe "
                "to bare metal, clamp again, insulate.",
                gain=difference(gain),
            ),
        )
    elif gain < -GAS_COOLS_K:
        yield Lie(
            "outlet_dirt",
            "evaporator_outlet_temp",
            say(
                "The coil outlet reads {gain} over the suction line, and gas does not cool on its "
                "way out. Clean the pipe under the clamp at the coil.",
                gain=difference(-gain),
            ),
        )


def liquid_dirt(seen: Seen) -> Iterator[Lie]:
    pair = ("liquid_line_temp", "liquid_line_temp_indoor")
    if not (seen.ran(SETTLED_MINUTES) and seen.has(*pair, "suction_line_temp")):
        return
    drop = seen.mean[pair[0]] - seen.mean[pair[1]]
    dew, bubble = seen.dew_c, seen.bubble_c
    if dew is None or bubble is None:
        return
    superheat, subcooling = seen.mean["suction_line_temp"] - dew, bubble - seen.mean[pair[0]]
    well_fed = ORDINARY_SUPERHEAT_K[0] <= superheat <= WELL_FED_K
    if drop > DROP_K and well_fed and subcooling > ORDINARY_SUBCOOLING_K[0]:
        yield Lie(
            "indoor_liquid_dirt",
            pair[1],
            say(
                "The liquid line reads {drop} cooler indoors, yet the coil is fed as it should be: "
                "a "
                "restriction that size would starve it. Clean the pipe under the indoor clamp.",
                drop=difference(drop),
            ),
        )
    elif drop < -GAS_COOLS_K * 0.7:
        yield Lie(
            "liquid_dirt",
            pair[0],
            say(
                "The liquid line reads {rise} warmer indoors than at the outdoor unit. Clean the "
                "pipe "
                "under the outdoor clamp and insulate it.",
                rise=difference(-drop),
            ),
        )


def discharge_dirt(seen: Seen) -> Iterator[Lie]:
    """Gas cannot leave a compressor cooler than an ideal stroke would leave it."""
    points = ("discharge_line_temp", "suction_line_temp", "suction_pressure", "liquid_pressure")
    if not (seen.ran(WARM_MINUTES) and seen.has(*points)):
        return
    states, atmosphere = load_states(seen.refrigerant), atmospheric_kpa(seen.elevation_m)
    dew = seen.dew_c
    if dew is None or seen.mean["suction_line_temp"] - dew < degrees_f(4):
        return  # wet gas leaves cool
    try:
        low = states.vapour(
            seen.mean["suction_pressure"] + atmosphere, seen.mean["suction_line_temp"]
        )
        ideal = states.vapour_at_entropy(seen.mean["liquid_pressure"] + atmosphere, low.entropy)
    except CoreError:
        return
    under = ideal.temp_c - seen.mean["discharge_line_temp"]
    if under > COOLER_THAN_IDEAL_K:
        yield Lie(
            "discharge_dirt",
            "discharge_line_temp",
            say(
                "Discharge line reads {under} under what even an ideal compressor would give. "
                "Clean "
                "the pipe under the clamp, 6 in. from the compressor.",
                under=difference(under),
            ),
        )


def wet_and_dry(seen: Seen) -> Iterator[Lie]:
    for where in ("return", "supply"):
        dry, wet = f"{where}_air_temp", f"{where}_air_wet_bulb"
        if not seen.has(dry, wet):
            continue
        under = seen.mean[dry] - seen.mean[wet]
        limit = (
            WET_UNDER_DRY_K if where == "return" and seen.ran(SETTLED_MINUTES) else -degrees_f(1)
        )
        if under < limit:
            yield Lie(
                "dry_wick",
                wet,
                say(
                    f"{where.title()} wet bulb is only {{under}} under dry bulb. Wet the wick, and "
                    "check which probe is which.",
                    under=difference(under),
                ),
            )


def supply_mixed(seen: Seen) -> Iterator[Lie]:
    """Refrigerant and air tell one story: an ordinary coil does not leave the air half cooled."""
    points = (
        "supply_air_temp",
        "return_air_temp",
        "return_air_wet_bulb",
        "outdoor_air_temp",
        "suction_line_temp",
        "liquid_line_temp",
    )
    dew, bubble = seen.dew_c, seen.bubble_c
    if not (seen.ran(SETTLED_MINUTES) and seen.has(*points)) or dew is None or bubble is None:
        return
    superheat = seen.mean["suction_line_temp"] - dew
    subcooling = bubble - seen.mean["liquid_line_temp"]
    under = seen.mean["return_air_temp"] - dew
    if not (
        ORDINARY_SUPERHEAT_K[0] <= superheat <= ORDINARY_SUPERHEAT_K[1]
        and ORDINARY_SUBCOOLING_K[0] <= subcooling <= ORDINARY_SUBCOOLING_K[1]
        and under > degrees_f(28)
    ):
        return
    try:
        air = moist_air(
            seen.mean["return_air_temp"], seen.elevation_m, seen.mean["return_air_wet_bulb"]
        )
        expected = expected_coil(air, seen.mean["outdoor_air_temp"]).split_k
    except CoreError:
        return
    split = seen.mean["return_air_temp"] - seen.mean["supply_air_temp"]
    if split < SPLIT_SHARE * expected:
        yield Lie(
            "supply_mixed",
            "supply_air_temp",
            say(
                "The air splits {split} where {expected} is due, and the refrigerant side is in "
                "order. "
                "The supply probe is reading mixed air: put it inside the boot.",
                split=difference(split),
                expected=difference(expected),
            ),
        )
