"""Where trade knowledge knows better than the simulated plant: these cells replace the swept ones.

The plant is lumped and its faults are one mechanism each; where what the trade sees differs,
the row says what is used, and why. Applied by `tools/make_signatures.py`.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class TradeMark:
    """One cell of the table of signatures: departure ± one standard deviation [°F or %]."""

    device: str
    fault: str
    sign: str
    middle_f: float
    spread_f: float
    reason: str
    severity: str = ""
    """The severity it is for; "" for every one."""


_RUN_DRY = (
    "The plant's one-circuit condenser loses its subcooling all at once; real circuits run dry one "
    "after the other, so a few degrees stay, and plates ask for anything from 5 to 16."
)

_NEARLY_EMPTY = (
    "The plant does not run with less than about half its charge; real systems are found nearly "
    "empty, with superheat far up, suction far down and the head near the air."
)

_BACKS_UP = (
    "Behind a plugged orifice the plant's flow falls so far that its condenser hardly fills; the "
    "trade finds subcooling normal to high, because the liquid has nowhere to go."
)

_PAST_HALF = (
    "The plant's worst compressor still moves half its flow; those found not pumping move less: "
    "pressures towards each other, superheat high-ish behind a valve wide open."
)

_FAR_TOO_LARGE = (
    "The plant's orifices are up to 60 % too large; the trade finds those of another machine in "
    "them, and suction well up behind them."
)

_STACKS = (
    "The plant's condenser holds no more liquid on a cold day; the trade finds it stacked there: "
    "subcooling looks high, and superheat is high or hunts, because the valve lacks the pressure."
)

TRADE_MARKS: tuple[TradeMark, ...] = (
    TradeMark("valve", "undercharge", "subcooling", -7.0, 3.2, _RUN_DRY, "mild"),
    TradeMark("valve", "undercharge", "subcooling", -8.5, 2.6, _RUN_DRY, "moderate"),
    TradeMark("valve", "undercharge", "subcooling", -9.0, 2.4, _RUN_DRY, "severe"),
    TradeMark("valve", "undercharge", "superheat", 26.0, 15.0, _NEARLY_EMPTY, "severe"),
    TradeMark("valve", "undercharge", "evaporator_superheat", 26.0, 15.0, _NEARLY_EMPTY, "severe"),
    TradeMark("valve", "undercharge", "evaporator_difference", 10.0, 9.0, _NEARLY_EMPTY, "severe"),
    TradeMark("valve", "undercharge", "boiling", -10.0, 9.0, _NEARLY_EMPTY, "severe"),
    TradeMark("valve", "undercharge", "condensing_over_ambient", -8.0, 4.5, _NEARLY_EMPTY,
              "severe"),
    TradeMark("valve", "undercharge", "temperature_split", -7.0, 5.0, _NEARLY_EMPTY, "severe"),
    TradeMark("orifice", "undercharge", "subcooling", -6.5, 3.2, _RUN_DRY, "mild"),
    TradeMark("orifice", "undercharge", "subcooling", -8.0, 2.6, _RUN_DRY, "moderate"),
    TradeMark("orifice", "undercharge", "subcooling", -9.0, 2.4, _RUN_DRY, "severe"),
    TradeMark("orifice", "metering_underfeed", "subcooling", 4.0, 4.0, _BACKS_UP, "moderate"),
    TradeMark("orifice", "metering_underfeed", "subcooling", 5.0, 5.0, _BACKS_UP, "severe"),
    TradeMark("valve", "compressor_worn", "superheat", 3.0, 6.0, _PAST_HALF, "severe"),
    TradeMark("valve", "compressor_worn", "evaporator_difference", -12.0, 5.5, _PAST_HALF,
              "severe"),
    TradeMark("valve", "compressor_worn", "boiling", 12.0, 5.5, _PAST_HALF, "severe"),
    TradeMark("valve", "compressor_worn", "temperature_split", -7.0, 4.5, _PAST_HALF, "severe"),
    TradeMark("valve", "compressor_worn", "condensing_over_ambient", -8.0, 4.0, _PAST_HALF,
              "severe"),
    TradeMark(
        "orifice", "compressor_worn", "superheat", 0.0, 9.0,
        "The plant's orifice floods behind a compressor that moves little; the trade finds "
        "superheat high-ish as often, because the slip warms the suction gas. Both are allowed, "
        "so superheat says little here and the pressures speak.",
    ),
    TradeMark(
        "valve", "metering_overfeed", "superheat", -9.5, 2.5,
        "The plant's valve stuck past its need leaves no superheat at rest, however far it is "
        "stuck; the trade calls it overfeeding once superheat is low or gone: 0 to 6 °F of 12, "
        "those ends two σ away, and a valve's own setting with its two instruments beside it.",
    ),
    TradeMark(
        "orifice", "metering_overfeed", "subcooling", -5.0, 3.5,
        "In the plant an oversized orifice drains the condenser fully; the trade finds "
        "subcooling low to normal.",
    ),
    TradeMark("orifice", "metering_overfeed", "evaporator_difference", -4.0, 4.0, _FAR_TOO_LARGE),
    TradeMark("orifice", "metering_overfeed", "boiling", 4.0, 4.0, _FAR_TOO_LARGE),
    TradeMark("valve", "low_ambient", "subcooling", 3.0, 3.5, _STACKS, "moderate"),
    TradeMark("valve", "low_ambient", "superheat", 5.0, 7.0, _STACKS, "moderate"),
    TradeMark("valve", "low_ambient", "subcooling", 4.0, 4.0, _STACKS, "severe"),
    TradeMark(
        "valve", "condenser_dirt", "subcooling", 0.5, 3.5,
        "The plant's matted coil moves subcooling one way; the trade finds it changes little at "
        "first and can be high.",
    ),
)  # fmt: skip
