"""What a multi-zone plant carries from one moment to the next."""

from dataclasses import dataclass, field


@dataclass(slots=True)
class ZoneState:
    """Everything that carries over. Temperatures [°C]."""

    at_s: float
    rooms: list[float]
    steps: list[float]
    is_on: list[bool]
    inlets: list[float]
    outlets: list[float]
    hz: float = 0.0
    boils_c: float = 8.0
    condenses_c: float = 35.0
    in_accumulator_kg: float = 0.0
    shell_c: float = 30.0
    gas_c: float = 50.0
    comes_c: float = 15.0
    """What comes to the accumulator."""
    subcools_k: float = 6.0
    first_k: float = 4.0
    """What of it is there after the first of the two subcoolers."""
    quality: float = 0.0
    rested_s: float = 1e9
    oil_at_s: float = 0.0
    oils_until_s: float = -1.0
    main: str = "cooling"
    turned_s: float = 0.0
    fan: float = 1.0
    """How fast its outdoor fan turns, in shares."""
    outdoors: float = 1.0
    """How much of the outdoor coil takes part, where rooms are served both ways."""
    heat_kw: list[float] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class CoilWork:
    """What one unit's coil does just now."""

    flow: float
    boils: float
    kw: float
    gap_k: float
    """Superheat where it cools, subcooling where it heats."""
    at_c: float
    flood: float = 0.0
