"""The parts of a machine that can be touched on its drawing."""

from collections.abc import Mapping
from types import MappingProxyType

PARTS: Mapping[str, str] = MappingProxyType(
    {
        "thermostat": "Thermostat",
        "filter": "Filter",
        "indoor_coil": "Indoor coil",
        "blower": "Blower and its capacitor",
        "drain": "Drain and pan",
        "bulb": "Valve and bulb",
        "liquid_line": "Liquid line",
        "ports": "Service valves and ports",
        "reversing_valve": "Reversing valve",
        "compressor": "Compressor",
        "outdoor_coil": "Outdoor coil",
        "cylinder": "Cylinder",
        "outdoor_fan": "Outdoor fan",
        "panels": "Panels and screws",
        "disconnect": "Disconnect",
    }
)
"""What can be touched on a drawn machine, in the order the air and the refrigerant meet it."""
