"""Each way in, step by step, with the caution beside the step."""

from collections.abc import Mapping
from types import MappingProxyType

from nudge.core.charging.ways import WayStep

_LOCKED = WayStep(
    "Power locked out and proven dead, capacitor discharged.",
    "Stored charge kills with the power off.",
)
_WEIGHED = WayStep(
    "Cylinder on the scale in its pouring position, hose still: write its weight down."
)
_CONFIRMED = WayStep("When it is right, wait 15 minutes and read once more.")
_WRITTEN = WayStep("Write the total charge on the unit and in the system’s book.")

BY_PIPES = "weigh_in_by_pipes"
"""How a plant with many rooms is weighed in."""

STEPS: Mapping[str, tuple[WayStep, ...]] = MappingProxyType(
    {
        "trim_by_subcooling": (
            WayStep("Air right, loads right, running long enough and steady."),
            _WEIGHED,
            WayStep(
                "Give the dose in short bursts into suction, shut between them.",
                "Superheat never under {d5} on the way in.",
            ),
            WayStep("Wait out the clock: the liquid line is the slow one."),
            _CONFIRMED,
        ),
        "trim_by_superheat": (
            WayStep("Air right; return wet bulb and outdoor air read, not guessed."),
            _WEIGHED,
            WayStep(
                "Give the dose in short bursts into suction, shut between them.",
                "Superheat never under {d5} on the way in; an orifice does not hold liquid back.",
            ),
            WayStep(
                "The target moves with the load: read wet bulb and outdoor air again each time."
            ),
            _CONFIRMED,
        ),
        "inverter_charge_mode": (
            WayStep("Read the maker’s manual; crankcase heater on for as long as it asks."),
            WayStep(
                "Write the indoor settings down, then start the unit’s own charge or test mode."
            ),
            WayStep("30 minutes at full speed before the first reading."),
            WayStep(
                "Subcooling on the plate ±1; additions about 10 minutes apart.",
                "Superheat is the controller’s business, but under {d5} stop.",
            ),
            WayStep(
                "End the mode, and put the indoor settings back.",
                "Left in charge mode it runs at full speed until somebody notices.",
            ),
        ),
        "cold_with_collar": (
            WayStep(
                "Fan-cycling control bypassed, so that the fan runs steadily; crankcase heater "
                "on as "
                "long as the maker asks.",
                "Lock out power before a wire is moved.",
            ),
            WayStep(
                "Stand the collar on the outdoor unit’s discharge so that warm air comes back "
                "evenly "
                "to all sides.",
                "Keep clear of the fan; the discharge stays open at the top.",
            ),
            WayStep(
                "Put the outdoor air probe where the air enters the coil, inside the collar’s air: "
                "that is the air the condenser works in now."
            ),
            WayStep(
                "Open or close the collar until both figures above are right, and hold them there "
                "for 10 minutes."
            ),
            WayStep("Then trim by subcooling, in smaller steps."),
            WayStep(
                "Collar off, fan control back, outdoor probe back in free air.",
                "A collar forgotten on is a high-pressure trip in spring.",
            ),
        ),
        "weigh_in": (
            _LOCKED,
            WayStep(
                "Pressure test with nitrogen, release, evacuate, isolate, and see that it holds.",
                "Never oxygen or compressed air. Never over the lower design pressure of the "
                "plates.",
            ),
            WayStep(
                "Break the vacuum with refrigerant, virgin or reclaimed.",
                "Never run a compressor in a vacuum: it arcs inside.",
            ),
            _WEIGHED,
            WayStep(
                "Compressor off: let liquid into the liquid side until the sheet’s weight is in, "
                "or "
                "it stops taking.",
                "Gloves and eye protection; liquid freezes what it touches.",
            ),
            WayStep("What is left goes into suction in short bursts with the system running."),
            WayStep("Run it, settle, and trim by subcooling or superheat."),
            _WRITTEN,
        ),
        BY_PIPES: (
            _LOCKED,
            WayStep(
                "Recover all of it and weigh what comes: against the sheet that is evidence.",
                "Cylinders in date, for this refrigerant, none over 80 %. Never to air.",
            ),
            WayStep(
                "Find the leak and mend it. Pressure test with nitrogen, release, evacuate, "
                "isolate, and see that it holds.",
                "Never oxygen or compressed air. The whole charge can leak into the smallest room.",
            ),
            _WEIGHED,
            WayStep(
                "Compressor off: liquid into the liquid side until the sheet’s weight is in.",
                "Gloves and eye protection; liquid freezes what it touches.",
            ),
            WayStep("Run it in its maker’s own mode; read an hour of its log. It is not trimmed."),
            _WRITTEN,
        ),
        "remove": (
            WayStep(
                "A recovery cylinder for this refrigerant, in date, weighed, with room under 80 %.",
                "Liquid that warms in a full cylinder bursts it. Never to air.",
            ),
            WayStep("Take liquid from the liquid port in short bursts, cylinder on the scale."),
            WayStep("Shut, wait out the clock, read again."),
            _CONFIRMED,
            WayStep("Weigh the cylinder and mark it as used refrigerant."),
        ),
    }
)
