"""What the customs of the trade would say of a standing vacuum, and what each would let pass."""

from dataclasses import dataclass

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import PA_PER_MICRON, Quantity
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.tightness.decay import Risen
from nudge.core.physics.tightness.leak import lost_a_year, throughput

AFTER_MIN = 10.0


@dataclass(frozen=True, slots=True)
class VacuumSchool:
    """One custom: under so much [Pa] after ten minutes."""

    key: str
    label: str
    limit_pa: float
    reason: str


SCHOOLS: tuple[VacuumSchool, ...] = (
    VacuumSchool(
        "used",
        "Under {limit} after ten minutes, old oil in it",
        1_000 * PA_PER_MICRON,
        "Old oil gives gas off; trade.",
    ),
    VacuumSchool(
        "strict",
        "Under {limit} after ten minutes",
        500 * PA_PER_MICRON,
        "New systems and the strict; trade.",
    ),
    VacuumSchool(
        "deep",
        "Under {limit} after ten minutes, the third of three",
        300 * PA_PER_MICRON,
        "Inverter makers’ triple evacuation; trade.",
    ),
)


def schools_say(stretch: Risen, litres: float, plate: Plate) -> tuple[Said, ...]:
    """Each custom’s word on a stretch of ten minutes or more, with the leak it lets through."""
    begun = stretch.minutes[0]
    after = next(
        (
            p
            for t, p in zip(stretch.minutes, stretch.pascals, strict=True)
            if t - begun >= AFTER_MIN * 0.98
        ),
        None,
    )
    if after is None:
        return ()
    start, words = stretch.pascals[0], []
    for school in SCHOOLS:
        says = "passes" if after < school.limit_pa else "fails"
        room = max(school.limit_pa - start, 0.0)
        misses = lost_a_year(
            plate.refrigerant, throughput(litres, room / 1000 / (AFTER_MIN * 60)), 101.325, air=True
        )
        tail = " From here it would let a leak of {misses} a year pass." if room else ""
        words.append(
            say(
                f"{school.label}: {says}, at {{after}}.{tail}",
                limit=Measure(school.limit_pa, Quantity.VACUUM),
                after=Measure(after, Quantity.VACUUM),
                **({"misses": Measure(misses, Quantity.YEARLY_LOSS)} if room else {}),
            )
        )
    return tuple(words)
