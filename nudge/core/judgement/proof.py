"""Do no harm: what must not contradict, and what must have been measured, before anyone is told
to move refrigerant.

One row a look-alike, which answers `True` (told apart), `False` (measured, and it contradicts)
or `None` (not measured). A contradiction always stands in the way; what is not measured does
only where the row is required: the rest is left to how sure the beliefs are, and to how well
they hold without any one reading (`decision/robust.py`).
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from nudge.core.behaviours.case import Case
from nudge.core.judgement.tests_of_proof import (
    Marks,
    at_least,
    has_run,
    level_is,
    liquid_is_short,
    no_dose_in_vain,
    no_liquid_returns,
    not_freezing,
    suction_not_high,
    superheat_fits_high,
    superheat_fits_low,
    target_is_known,
    ticked,
    unless,
)
from nudge.core.settling.breaches import WARM_ENOUGH_APPROACH_C, WARM_ENOUGH_C

HangsKind = Literal["reading", "look", "test", "work", "minutes"]


@dataclass(frozen=True, slots=True)
class ProofRow:
    """How one look-alike is told from the charge fault. Both sentences say what to do."""

    look_alike: str
    told_apart_by: str
    proven: Callable[[Case, Marks], bool | None]
    if_missing: str
    if_contradicted: str
    check: str = ""
    """The check of `CHECKS` that would measure what is missing."""
    until_answered: bool = False
    """Once a first proven dose was answered the answer is the better witness of this one: near
    its target a system short of charge looks like one with nothing wrong."""
    required: bool = False
    """Unmeasured, it stands in the way."""
    asks: tuple[HangsKind, str] = ("test", "")
    """What exactly is missing where it is required: a reading's point, a look, a test."""
    then: tuple[str, ...] = ()
    """The checks it names, in turn: asked for once what it rests on is read and confirmed."""
    answered_by: tuple[str, ...] = ()
    """Observations that, all of them made, answer it: what it warned of was looked for, and is
    right. How sure the beliefs have to be is left to them."""
    fears: tuple[str, ...] = ()
    """Suspects it guards against by what a class is expected to show: where each is weighed with
    all that was read, and not believed, being outside that window contradicts nothing."""


ADD_PROOF: tuple[ProofRow, ...] = (
    ProofRow(
        "liquid_line_restriction",
        "subcooling low, where a restriction keeps it normal or high",
        liquid_is_short,
        "read liquid pressure and liquid line, for subcooling",
        "Subcooling is not low, so the liquid is there and is not getting through: look for a "
        "restriction or a starving metering device",
        "read_liquid_side",
        until_answered=True,
        then=("walk_liquid_line", "carry_one_clamp"),
    ),
    ProofRow(
        "liquid_line_restriction",
        "no temperature step along the liquid line, where one was measured",
        unless("liquid_line_drop", "high"),
        "",
        "The liquid line drops too much between its ends: find the restriction",
    ),
    ProofRow(
        "liquid_line_restriction",
        "no temperature step across the drier, where one was measured",
        unless("drier_drop", "high"),
        "",
        "The drier drops too much: it is plugging",
    ),
    ProofRow(
        "none",
        "the maker's own target, plate or chart; where it is a guess, superheat high as well",
        target_is_known,
        "find the target subcooling on the plate, because a guess proves nothing",
        "",
        required=True,
        asks=("look", "plate"),
    ),
    ProofRow(
        "metering_overfeed",
        "superheat held or high on a valve, high on an orifice",
        superheat_fits_low,
        "read suction pressure and suction line, for superheat against its target",
        "Superheat does not fit low charge: look at the metering device, the bulb and the air",
        "read_suction_side",
        required=True,  # it is watched while refrigerant goes in
        asks=("reading", "suction_line_temp"),
        until_answered=True,
        then=("look_at_bulb",),
    ),
    ProofRow(
        "metering_overfeed",
        "no liquid returning: superheat not under 3 °F at the outdoor unit or at the coil",
        no_liquid_returns,
        "",
        "Superheat at the coil is near zero: liquid may be reaching the compressor",
    ),
    ProofRow(
        "low_indoor_load",
        "return air 70 °F or warmer",
        at_least("return_air_temp", WARM_ENOUGH_C),
        "read return air",
        "The house is too cool to tell low charge from low load",
        "read_return_air",
        required=True,
        asks=("reading", "return_air_temp"),
    ),
    ProofRow(
        "low_ambient_stacking",
        "outdoor air measured; the gate holds its 70 °F (65 with an approach plate)",
        at_least("outdoor_air_temp", WARM_ENOUGH_APPROACH_C),
        "read outdoor air",
        "It is too cold outdoors to tell low charge from a starved valve",
        "read_outdoor_air",
        required=True,
        asks=("reading", "outdoor_air_temp"),
    ),
    ProofRow(
        "icing",
        "evaporator saturation above freezing",
        not_freezing,
        "read suction pressure",
        "The evaporator is under freezing: ice would spoil every number",
        "read_suction_side",
    ),
    ProofRow(
        "condenser_airflow",
        "condensing over ambient not high",
        level_is("condensing_over_ambient", "low", "in"),
        "read liquid pressure and outdoor air",
        "Condensing over ambient is high, which low charge never does: look at the outdoor coil "
        "and fan",
        "read_liquid_side",
        then=("look_at_condenser", "watch_condenser_fan", "standing_pressure"),
        answered_by=("condenser_coil_clean", "condenser_fan_ok", "standing_pressure_right"),
    ),
    ProofRow(
        "inefficient_compressor",
        "suction not raised: evaporator difference and pressure ratio not low",
        suction_not_high,
        "read return air and suction pressure",
        "Suction is high for this return air, which low charge never does: check the compressor, "
        "the load and the metering device",
        "read_return_air",
        until_answered=True,
        then=("test_compressor",),
        answered_by=("compressor_pumps",),  # load and superheat have rows of their own
    ),
    ProofRow(
        "reversing_valve_leak",
        "pressure ratio not low",
        level_is("pressure_ratio", "in", "high"),
        "read both pressures",
        "The pressures lean towards each other: check that the compressor pumps",
        "read_suction_side",
        until_answered=True,
        then=("test_compressor", "feel_reversing_valve"),
        fears=("reversing_valve_leak", "inefficient_compressor"),  # low charge lowers head too
    ),
    ProofRow(
        "low_indoor_airflow",
        "temperature split not large, where one was measured",
        unless("temperature_split", "high"),
        "",
        "The temperature split is large: too little air is a likelier cause of low suction",
        until_answered=True,
    ),
    ProofRow(
        "liquid_line_restriction",
        "no earlier dose that suction did not answer",
        no_dose_in_vain,
        "",
        "What went in did not raise suction: it is not getting through. Look for a restriction or "
        "a starving metering device",
        until_answered=True,
    ),
    ProofRow(
        "unsettled",
        "run time known and past its gate",
        has_run,
        "mark when the system was started",
        "The system has not run long enough",
        required=True,
        asks=("minutes", "running_unknown"),
    ),
)

REMOVE_PROOF: tuple[ProofRow, ...] = (
    ProofRow(
        "none",
        "subcooling not low, where approach or superheat decides",
        unless("subcooling", "low"),
        "",
        "Subcooling is low, which overcharge never shows: read again, and check the probes",
    ),
    ProofRow(
        "condenser_airflow",
        "outdoor coil seen clean",
        ticked("condenser_coil_clean"),
        "look at the outdoor coil and tick what you see",
        "",
        "look_at_condenser",
        required=True,
        asks=("look", "condenser_coil_clean"),
    ),
    ProofRow(
        "condenser_airflow",
        "outdoor fan seen right",
        ticked("condenser_fan_ok"),
        "check the outdoor fan",
        "",
        "watch_condenser_fan",
        required=True,
        asks=("look", "condenser_fan_ok"),
    ),
    ProofRow(
        "liquid_line_restriction",
        "superheat not high",
        superheat_fits_high,
        "read suction pressure and suction line, for superheat",
        "Superheat is high with a full liquid line: liquid is not getting through. Look for a "
        "restriction or a starving metering device",
        "read_suction_side",
        required=True,
        asks=("reading", "suction_line_temp"),
        then=("walk_liquid_line", "carry_one_clamp"),
        fears=("liquid_line_restriction", "metering_underfeed"),
    ),
    ProofRow(
        "low_ambient_stacking",
        "outdoor air measured; the gate holds its 70 °F (65 with an approach plate)",
        at_least("outdoor_air_temp", WARM_ENOUGH_APPROACH_C),
        "read outdoor air",
        "It is too cold outdoors: liquid stacks in the condenser",
        "read_outdoor_air",
        required=True,
        asks=("reading", "outdoor_air_temp"),
    ),
    ProofRow(
        "unsettled",
        "run time known and past its gate",
        has_run,
        "mark when the system was started",
        "The system has not run long enough",
        required=True,
        asks=("minutes", "running_unknown"),
    ),
)


@dataclass(frozen=True, slots=True)
class Proof:
    """Which rows of a proof stand in the way: required and not measured, or contradicted."""

    missing: tuple[ProofRow, ...]
    contradicted: tuple[ProofRow, ...]

    @property
    def complete(self) -> bool:
        return not self.missing and not self.contradicted


def prove(
    rows: tuple[ProofRow, ...],
    case: Case,
    marks: Marks,
    is_answered: bool = False,
    is_feared: Callable[[str], bool] = lambda _: True,
) -> Proof:
    """Walk a proof table; `is_answered` where a first proven dose was answered, `is_feared` says
    of a suspect whether the beliefs leave it open.
    """
    asked = [row for row in rows if not (is_answered and row.until_answered)]
    answers = [(row, row.proven(case, marks)) for row in asked]
    return Proof(
        tuple(row for row, answer in answers if answer is None and row.required),
        tuple(
            row
            for row, answer in answers
            if answer is False
            and (not row.fears or any(map(is_feared, row.fears)))
            and not (row.answered_by and all(map(case.saw, row.answered_by)))
        ),
    )
