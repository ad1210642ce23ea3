"""What is said of a cold room's numbers, whatever they come to."""

from nudge.core.judgement.decision.ground import Ground
from nudge.core.language.said import Measure, Said, difference, say, temperature
from nudge.core.language.units import Quantity, degrees_f
from nudge.core.language.vocabulary.accuracy import GAP_LIMIT_K
from nudge.core.physics.cold_room.ladder import Rungs
from nudge.core.physics.cold_room.room import ColdRoom

NO_CHARGE = say(
    "Charge is not trimmed here: by the receiver's level or its plate, by weight. What ran short "
    "has a leak."
)
BY_WINDOWS = say("By its windows alone: without a receiver on its plate suspects are not weighed.")


def alone(ground: Ground) -> list[Said]:
    """That windows answer alone, where they do."""
    return [BY_WINDOWS] if ground.weighing is None else []


def rungs_said(ground: Ground, room: ColdRoom) -> list[Said]:
    """The coil's superheat beside its window, and where it boils beside its design."""
    derived, rung, said = ground.case.derived, room.at_box, []
    low, high = room.coil_window_k
    coil = derived.evaporator_superheat
    if coil is not None:
        place = "in" if low <= coil <= high else "not in"
        if place == "not in" and low - GAP_LIMIT_K <= coil <= high + GAP_LIMIT_K:
            place = "within a gauge's and a clamp's error of"
        said.append(
            say(
                f"The coil's superheat is {{coil}}, {place} {{low}} to {{high}}.",
                coil=difference(coil),
                low=difference(low),
                high=difference(high),
            )
        )
    if rung is not None and derived.evaporator_saturation is not None:
        said.append(
            say(
                "It boils at {now}, {wanted} by design.",
                now=temperature(derived.evaporator_saturation),
                wanted=temperature(rung.evaporating_c),
            )
        )
        said += guessed(rung)
    return said


def guessed(rung: Rungs) -> list[Said]:
    if not rung.is_guessed:
        return []
    return [
        say(
            "By the usual class, {coil} at the coil: write the room's own in the plate.",
            coil=Measure(degrees_f(10), Quantity.TEMPERATURE_DIFFERENCE),
        )
    ]
