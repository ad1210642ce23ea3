"""The joints of a split, and how each stands under nitrogen: bubbles joint by joint."""

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

from nudge.core.tests.run import Run

JointIs = Literal["untested", "dry", "bubbles", "mended"]
JOINTS: Mapping[str, str] = MappingProxyType(
    {
        "indoor_liquid": "Liquid line at the indoor coil",
        "metering": "Metering device and its cap",
        "indoor_vapour": "Vapour line at the indoor coil",
        "drier_in": "Drier, inlet",
        "drier_out": "Drier, outlet",
        "outdoor_liquid": "Liquid line at the outdoor unit",
        "outdoor_vapour": "Vapour line at the outdoor unit",
        "liquid_port": "Liquid port: core and cap",
        "suction_port": "Suction port: core and cap",
        "compressor_stubs": "Compressor stubs",
    }
)
"""In the order one walks them: from indoors along the line to the outdoor unit."""
_SAYS: Mapping[str, JointIs] = MappingProxyType(
    {"joint_dry": "dry", "joint_bubbles": "bubbles", "joint_mended": "mended"}
)


def joints_of(run: Run) -> dict[str, JointIs]:
    """How each joint stands, by what was noted of it last; all are dry where somebody said so."""
    found: dict[str, JointIs] = dict.fromkeys(JOINTS, "untested")
    for mark in run.marks:
        if mark.kind == "joints_dry":
            found = dict.fromkeys(found, "dry")
        elif mark.kind in _SAYS and mark.place in found:
            found[mark.place] = _SAYS[mark.kind]
    return found


def all_dry(run: Run) -> bool:
    """Whether bubbles were looked for at every joint since the last was mended, and none stood."""
    return all(state == "dry" for state in joints_of(run).values())


def is_leaking(run: Run) -> bool:
    """Whether a joint bubbles: one of the drawing, or any that was named."""
    if any(state == "bubbles" for state in joints_of(run).values()):
        return True
    noted = run.marked("joint_bubbles", "joint_mended", "joints_dry")
    return bool(noted) and noted[-1].kind == "joint_bubbles" and noted[-1].place not in JOINTS
