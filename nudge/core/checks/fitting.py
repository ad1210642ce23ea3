"""How a part is fitted into an open circuit: the points that decide later trouble, one row a point.

Every part is a form of its own, made from its rows. What was fitted is said in one's own words.
"""

from collections.abc import Callable
from dataclasses import dataclass

from nudge.core.checks.blanks import Blank
from nudge.core.checks.form import Form
from nudge.core.checks.form_findings import Entries, FormFinding, State
from nudge.core.language.said import Said, say
from nudge.core.physics.circuit.equipment import Plate

RANK: dict[State, int] = {"good": 0, "noted": 0, "watch": 1, "bad": 2}


@dataclass(frozen=True, slots=True)
class Answer:
    """One answer to a point: how it stands, what is said of it ("" nothing), what it did."""

    key: str
    label: str
    state: State = "good"
    said: str = ""
    event: str = ""


@dataclass(frozen=True, slots=True)
class FitPoint:
    """One point of fitting, and its answers."""

    key: str
    label: str
    answers: tuple[Answer, ...]
    is_needed: bool = True


@dataclass(frozen=True, slots=True)
class FitPart:
    """One part that is renewed: what renewing it is called, its cautions, its points."""

    key: str
    label: str
    event: str
    subsystem: str
    caution: str
    points: tuple[FitPoint, ...]

    @property
    def form_key(self) -> str:
        return f"fit_{self.key}"


def _yes_no(
    key: str, label: str, missing: str, worst: State = "watch", event: str = ""
) -> FitPoint:
    return FitPoint(
        key, label, (Answer("yes", "Yes", event=event), Answer("no", "No", worst, missing))
    )


_FLAME = (
    "Recovered and swept with nitrogen before any flame; fire watch, extinguisher at hand; "
    "nitrogen trickling while it is brazed. Never a flame on a pipe under pressure."
)
_DRIER = FitPoint(
    "drier",
    "Drier renewed with it",
    (
        Answer("yes", "Yes", event="drier_renewed"),
        Answer("no", "No", "watch", "The old drier has seen air: renew it with every opening."),
        Answer("none", "There is none", "noted"),
    ),
)
_RINGS = _yes_no(
    "rings", "New rings and seals", "Old rings on a joint that was open leak within a year."
)
_TIGHT = FitPoint(
    "tightness",
    "Screwed joints",
    (
        Answer("by_torque", "By the wrench’s torque"),
        Answer("quarter_turn", "Soft ring: hand tight and a quarter turn"),
        Answer("by_feel", "By feel", "watch",
               "By feel, soft rings are crushed and flares cracked: hand tight and a quarter turn, "
               "or by torque."),
        Answer("none", "None: all brazed", "noted"),
    ),
)  # fmt: skip
_TRICKLE = FitPoint(
    "trickle",
    "Brazed with nitrogen trickling through",
    (
        Answer("yes", "Yes"),
        Answer("no", "No", "bad",
               "Scale has formed inside: it plugs the valve and the screen. Sweep it, renew the "
               "drier again after some hours of running."),
        Answer("not_brazed", "Not brazed", "noted"),
    ),
)  # fmt: skip
_CORE = _yes_no("cores", "Valve cores renewed", "A core that was hot or out leaks at its seat.")

FIT_PARTS: tuple[FitPart, ...] = (
    FitPart("valve", "Metering valve", "metering_renewed", "refrigerant", _FLAME, (
        FitPoint("bulb", "Its bulb", (
            Answer("right", "On clean bare pipe, at 10 or 2, tight, insulated"),
            Answer("bottom", "Under the pipe", "bad",
                   "Oil runs under a bulb at the bottom and it feels late: 10 or 2 o’clock."),
            Answer("loose", "Loose, or not insulated", "bad",
                   "A loose or bare bulb feels the room: the valve floods."),
            Answer("none", "Electronic: a thermistor in its clip", "noted"),
        )),
        FitPoint("equaliser", "Its equaliser", (
            Answer("fitted", "External, connected past the bulb"),
            Answer("internal", "Internal: there is none to connect"),
            Answer("capped", "External, capped off", "bad",
                   "With its equaliser capped it starves: it feels the coil’s pressure drop as "
                   "superheat."),
        )),
        FitPoint("stem", "Its adjusting stem", (
            Answer("as_set", "As its maker set it"),
            Answer("turned", "Turned", "watch",
                   "Stem in is more superheat: a quarter turn, then 15 to 20 minutes. Write the "
                   "turns down."),
            Answer("not_adjustable", "Not adjustable: its cap stays shut", "noted"),
        ), is_needed=False),
        _RINGS, _TIGHT, _TRICKLE, _DRIER,
        _yes_no("screen", "Its screen cleaned or new",
                "What plugged the old one lies in the screen."),
    )),
    FitPart("compressor", "Compressor", "compressor_renewed", "refrigerant",
        _FLAME + " Oil of a burnt one burns the skin: gloves, eye protection. It is heavy: two "
        "people or a lift.", (
        FitPoint("old_oil", "The old one’s oil", (
            Answer("clear", "Clear"),
            Answer("dark", "Dark, or smells burnt", "watch",
                   "Acid may be left: an acid-holding drier in the suction line, an acid test "
                   "after a day, and again."),
        )),
        _yes_no("oil", "Kind and amount of oil as its maker asks",
                "The wrong oil, or none, ruins the new one.", "bad"),
        FitPoint("drier", "Liquid line drier", (
            Answer("cut_out", "Cut out, a new one in", event="drier_renewed"),
            Answer("unsweated", "Unsweated, a new one in", "watch",
                   "Heat drives its water back into the circuit: watch the decay.",
                   "drier_renewed"),
            Answer("kept", "The old one kept", "bad",
                   "It holds what killed the old compressor: cut it out."),
        )),
        _yes_no("contactor", "Contactor renewed",
                "Burnt points single-phase or chatter: the usual second failure."),
        _yes_no("capacitor", "Run capacitor renewed, of its rating",
                "A weak capacitor overheats the new motor."),
        _yes_no("wiring", "Terminals tight, their cover on, earth connected",
                "Loose terminals burn. Power dead and capacitor discharged before you touch them.",
                "bad"),
        _TRICKLE, _CORE,
        _yes_no("cause", "Why the old one died is known and put right",
                "It will kill the next one: charge, airflow, water, voltage, flooding."),
    )),
    FitPart("drier", "Drier", "drier_renewed", "refrigerant", _FLAME, (
        FitPoint("way", "Its arrow", (
            Answer("right", "With the flow"),
            Answer("bi_flow", "For both ways (heat pump)"),
            Answer("against", "Against the flow", "bad", "It sheds what it holds."),
        )),
        FitPoint("old", "The old one", (
            Answer("cut_out", "Cut out"),
            Answer("unsweated", "Unsweated", "watch",
                   "Heat drives its water back into the circuit: watch the decay."),
            Answer("none", "There was none", "noted"),
        )),
        _TRICKLE, _TIGHT,
    )),
    FitPart("coil", "Coil", "coil_renewed", "indoor",
        _FLAME + " Power locked out and proven dead; fins cut.", (
        _yes_no("matches", "Matches the outdoor unit by its maker’s list",
                "A coil that does not match has no plate to charge by: ask the maker.", "bad"),
        _yes_no("adder", "Its charge adder written on the plate here",
                "The sheet is short of what the new coil holds."),
        FitPoint("device", "Metering device in it", (
            Answer("new", "New, of the outdoor unit’s size"),
            Answer("kept", "The old one kept", "watch", "Its screen holds what came before."),
        )),
        _RINGS, _TIGHT, _TRICKLE, _DRIER,
        _yes_no("drain", "Drain trapped, sloped and poured through",
                "Water in the house is the first call back."),
    )),
    FitPart("joint", "Joint or pipe", "joint_made", "refrigerant", _FLAME, (
        FitPoint("how", "How it was made", (
            Answer("brazed", "Brazed"),
            Answer("flared", "Flared anew"),
            Answer("pressed", "Pressed, with its tool"),
            Answer("sealed", "Sealant, or tightened only", "bad",
                   "Sealant and a wrench are not a repair: make the joint anew."),
        )),
        _TRICKLE, _TIGHT, _RINGS, _DRIER, _CORE,
    )),
)  # fmt: skip


def _judge(part: FitPart) -> Callable[[Plate, Entries], FormFinding]:
    def judge(_: Plate, entries: Entries) -> FormFinding:
        state: State = "good"
        said: list[Said] = []
        events = [part.event]
        for point in part.points:
            answer = next((a for a in point.answers if a.key == entries.get(point.key)), None)
            if answer is None:
                continue
            if RANK[answer.state] > RANK[state]:
                state = answer.state
            if answer.said:
                said.append(say(answer.said))
            if answer.event:
                events.append(answer.event)
        fitted = str(entries.get("fitted", "")).replace("{", "(").replace("}", ")")
        done = say(f"{part.label} fitted: {fitted}." if fitted else f"{part.label} fitted.")
        return FormFinding(state, (done, *said), events=tuple(dict.fromkeys(events)))

    return judge


def _form(part: FitPart) -> Form:
    points = (
        Blank(p.key, p.label, None, tuple((a.key, a.label) for a in p.answers), 0, 0, p.is_needed)
        for p in part.points
    )
    words = Blank("fitted", "What was fitted, in your words", is_needed=False)
    return Form(
        part.form_key,
        f"{part.label} fitted",
        part.subsystem,
        (*points, words),
        _judge(part),
        part.caution,
    )


FIT_FORMS: tuple[Form, ...] = tuple(_form(part) for part in FIT_PARTS)
FIT_KEYS = {part.key: part for part in FIT_PARTS}
