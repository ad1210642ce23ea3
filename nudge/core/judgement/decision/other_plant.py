"""The rules of plant whose charge is not judged: each speaks only where its own kind is met."""

from nudge.core.judgement.decision.cold_room import COLD_ROOM
from nudge.core.judgement.decision.heating import HEATING
from nudge.core.judgement.decision.multi_zone import MULTI_ZONE
from nudge.core.judgement.decision.rule import Rule
from nudge.core.judgement.decision.vehicle import VEHICLE

OTHER_PLANT: tuple[Rule, ...] = (*HEATING, *COLD_ROOM, *VEHICLE, *MULTI_ZONE)
