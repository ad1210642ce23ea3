"""Which reading plays which part in a circuit: a heat pump in heating turns them round."""

from dataclasses import dataclass

from nudge.core.language.vocabulary.points import Readings


@dataclass(frozen=True, slots=True)
class Roles:
    """Points by the part they play, the better one first where another may stand in.

    Superheat counts on `superheat_line`, subcooling on `subcool_line`; the cold side boils under
    `cold_air`, the warm side condenses over `warm_air`.
    """

    superheat_line: tuple[str, ...] = ("suction_line_temp", "evaporator_outlet_temp")
    subcool_line: tuple[str, ...] = ("liquid_line_temp", "liquid_line_temp_indoor")
    cold_air: tuple[str, ...] = ("return_air_temp",)
    warm_air: tuple[str, ...] = ("outdoor_air_temp",)
    along_liquid: tuple[str, str] = ("liquid_line_temp", "liquid_line_temp_indoor")
    """Both ends of the liquid line, as it flows."""

    def read(self, part: tuple[str, ...], readings: Readings) -> float | None:
        """The reading that plays a part; None where nobody took it."""
        return next((readings[point] for point in part if point in readings), None)

    @property
    def heats(self) -> bool:
        """Whether the house is the warm side."""
        return "return_air_temp" in self.warm_air

    @property
    def has_box(self) -> bool:
        """Whether the cold side's air is a cold room's."""
        return "box_air_temp" in self.cold_air


COOLING = Roles()
