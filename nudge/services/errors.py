"""What use cases raise besides the core's errors."""

from nudge.core.language.callout.parser import Misheard
from nudge.core.language.errors import CoreError, Impossible
from nudge.core.language.said import Said
from nudge.store.copies import BadCopy
from nudge.store.refusals import CannotWrite, NotThere, SameIdOtherContent

__all__ = [
    "BadCopy",
    "CannotWrite",
    "ChangedMeanwhile",
    "Closed",
    "NotFound",
    "NotThere",
    "NotUnderstood",
    "PlateQuestion",
    "SameIdOtherContent",
    "Unsettled",
]


class NotFound(CoreError):
    """No such row. Nothing was changed."""

    def __init__(self, what: str, key: str) -> None:
        super().__init__(what, f"There is no {what} “{key[:40]}” here. It may be in another Nudge.")


class NotUnderstood(CoreError):
    """A call-out with words that are not readings. None of it was stored."""

    def __init__(self, misheard: tuple[Misheard, ...]) -> None:
        super().__init__("call-out", " ".join(m.message for m in misheard))
        self.misheard = misheard


class Closed(CoreError):
    """The visit is closed, so nothing more is written on it."""

    def __init__(self) -> None:
        super().__init__("visit", "This visit is closed. Open it again to write on it.")


class ChangedMeanwhile(CoreError):
    """Somebody else changed the same field since it was seen. Nothing was changed."""

    def __init__(self, found: list[str]) -> None:
        super().__init__(
            "plate",
            f"Somebody changed this meanwhile: {'; '.join(found)}. Look, and "
            "type it again if yours is right.",
        )


class PlateQuestion(CoreError):
    """A plate changed while a visit with readings is under way: was it wrong until now?"""

    def __init__(self, was: str, now: str) -> None:
        super().__init__(
            "plate_question",
            f"A visit is under way and was judged as {was}. Was that written wrong until now, or "
            f"was the system changed to {now}? Say which.",
        )


class Unsettled(Impossible):
    """It still moves, and nobody said why to judge it now."""

    def __init__(self, moves: Said) -> None:
        tail = " Wait, or say why it has to be judged now."
        super().__init__("reason", Said(moves.template + tail, moves.measures, moves.tail))
