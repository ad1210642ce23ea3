"""A multi-zone plant's log as text, in column styles of our own."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from math import isnan

from nudge.core.physics.zones.log import ZoneLog
from nudge.core.physics.zones.points import MODES, OUTDOOR, ZONE_POINTS


@dataclass(frozen=True, slots=True)
class Style:
    """How a log is written: what it calls the outdoor unit's points and a room's."""

    key: str
    outdoor: Mapping[str, str]
    room: Mapping[str, str]
    """With {n} for the room's name."""
    modes: Mapping[int, str]
    calls: tuple[str, str]
    delimiter: str = ","
    decimal: str = "."
    in_fahrenheit: bool = False
    has_unit_row: bool = False
    title: str = ""


_NUMBERS = {code: str(code) for code in MODES.values()}
_WORDS = {0: "off", 1: "cooling", 2: "heating", 3: "oil return", 4: "defrost"}
STYLES: Mapping[str, Style] = {
    style.key: style
    for style in (
        Style(
            "coded",
            {
                "compressor_hz": "OU Comp freq [Hz]",
                "evaporating_target": "OU Te target [°C]",
                "evaporating_temp": "OU Te [°C]",
                "condensing_target": "OU Tc target [°C]",
                "condensing_temp": "OU Tc [°C]",
                "discharge_temp": "OU Td [°C]",
                "shell_temp": "OU Shell [°C]",
                "accumulator_inlet_temp": "OU Accu in [°C]",
                "accumulator_top_temp": "OU Accu upper [°C]",
                "accumulator_middle_temp": "OU Accu mid [°C]",
                "accumulator_bottom_temp": "OU Accu lower [°C]",
                "liquid_temp": "OU Liquid [°C]",
                "liquid_between_temp": "OU Liquid between [°C]",
                "subcooler_return_temp": "OU Subcool gas [°C]",
                "bypass_temp": "OU Bypass [°C]",
                "outdoor_air": "OU Ta [°C]",
                "fan": "OU Fan [%]",
                "mode": "OU Mode",
            },
            {
                "room_temp": "IU{n} Room [°C]",
                "set_point": "IU{n} Set [°C]",
                "return_air": "IU{n} Return air [°C]",
                "coil_inlet": "IU{n} Liquid pipe [°C]",
                "coil_outlet": "IU{n} Gas pipe [°C]",
                "valve_steps": "IU{n} EEV [pls]",
                "calls": "IU{n} Thermo",
                "room_mode": "IU{n} Mode",
            },
            _NUMBERS,
            ("0", "1"),
        ),
        Style(
            "paths",
            {
                "compressor_hz": "Outdoor/Compressor frequency",
                "mode": "Outdoor/Mode",
                "evaporating_target": "Outdoor/Evaporating target",
                "evaporating_temp": "Outdoor/Evaporating",
                "condensing_target": "Outdoor/Condensing target",
                "condensing_temp": "Outdoor/Condensing",
                "discharge_temp": "Outdoor/Discharge",
                "shell_temp": "Outdoor/Compressor shell",
                "accumulator_inlet_temp": "Outdoor/Accumulator inlet",
                "accumulator_top_temp": "Outdoor/Accumulator top",
                "accumulator_middle_temp": "Outdoor/Accumulator middle",
                "accumulator_bottom_temp": "Outdoor/Accumulator bottom",
                "liquid_temp": "Outdoor/Liquid line",
                "liquid_between_temp": "Outdoor/Liquid between subcoolers",
                "subcooler_return_temp": "Outdoor/Subcooler return",
                "bypass_temp": "Outdoor/Bypass pipe",
                "outdoor_air": "Outdoor/Outdoor air",
                "fan": "Outdoor/Fan",
            },
            {
                "room_temp": "Indoor {n}/Room",
                "set_point": "Indoor {n}/Set point",
                "return_air": "Indoor {n}/Return",
                "coil_inlet": "Indoor {n}/Coil inlet",
                "coil_outlet": "Indoor {n}/Coil outlet",
                "valve_steps": "Indoor {n}/Valve steps",
                "calls": "Indoor {n}/Calls",
                "room_mode": "Indoor {n}/Mode",
            },
            _WORDS,
            ("off", "on"),
            ";",
            ",",
            has_unit_row=True,
            title="Service log",
        ),
        Style(
            "camel",
            {
                "compressor_hz": "CompHz",
                "mode": "OpMode",
                "evaporating_target": "EvapTarget",
                "evaporating_temp": "EvapTemp",
                "condensing_target": "CondTarget",
                "condensing_temp": "CondTemp",
                "discharge_temp": "DischargeTemp",
                "shell_temp": "ShellTemp",
                "accumulator_inlet_temp": "AccuInlet",
                "accumulator_top_temp": "AccuTop",
                "accumulator_middle_temp": "AccuMiddle",
                "accumulator_bottom_temp": "AccuBottom",
                "liquid_temp": "LiquidTemp",
                "liquid_between_temp": "SubcoolBetween",
                "subcooler_return_temp": "SubcoolReturn",
                "bypass_temp": "BypassTemp",
                "outdoor_air": "AmbientTemp",
                "fan": "FanPercent",
            },
            {
                "room_temp": "RoomTemp_{n}",
                "set_point": "SetTemp_{n}",
                "return_air": "ReturnTemp_{n}",
                "coil_inlet": "CoilInTemp_{n}",
                "coil_outlet": "CoilOutTemp_{n}",
                "valve_steps": "ValvePulse_{n}",
                "calls": "Demand_{n}",
                "room_mode": "Mode_{n}",
            },
            {0: "-", 1: "C", 2: "H", 3: "O", 4: "D"},
            ("no", "yes"),
            "\t",
            in_fahrenheit=True,
        ),
    )
}


def written(log: ZoneLog, style: Style) -> str:
    """The log as text."""
    addresses = list(log.columns)
    heads = [_head(style, part, point) for part, point in addresses]
    lines = [style.title] if style.title else []
    lines.append(style.delimiter.join(["Time", *heads]))
    if style.has_unit_row:
        lines.append(style.delimiter.join(["", *(_unit(style, point) for _, point in addresses)]))
    shown = [_shown(style, point) for _, point in addresses]
    columns = [log.columns[address] for address in addresses]
    for i, at in enumerate(log.times_s):
        moment = datetime.fromtimestamp(at, UTC).strftime("%Y-%m-%d %H:%M:%S")
        cells = [show(column[i]) for show, column in zip(shown, columns, strict=True)]
        lines.append(style.delimiter.join([moment, *cells]))
    return "\n".join(lines) + "\n"


def _head(style: Style, part: str, point: str) -> str:
    if part == OUTDOOR:
        return style.outdoor[point]
    return style.room[point].replace("{n}", part)


def _unit(style: Style, point: str) -> str:
    if ZONE_POINTS[point].quantity is None:
        return "-"
    return "°F" if style.in_fahrenheit else "°C"


def _shown(style: Style, point: str) -> Callable[[float], str]:
    """A value as the style writes it; a gap is an empty cell."""
    row = ZONE_POINTS[point]
    if row.codes:
        if point == "calls":
            return lambda value: "" if isnan(value) else style.calls[int(value)]
        return lambda value: "" if isnan(value) else style.modes[int(value)]
    if row.quantity is None:
        return lambda value: "" if isnan(value) else f"{value:.0f}"

    def temperature(value: float) -> str:
        if isnan(value):
            return ""
        told = value * 1.8 + 32 if style.in_fahrenheit else value
        return f"{told:.1f}".replace(".", style.decimal)

    return temperature
