"""Forms of a winter's call: a second filter taken out, strips against their feed, lockouts."""

from collections.abc import Mapping
from dataclasses import replace

from nudge.core.checks.blanks import Blank
from nudge.core.checks.defrost import EVENTS, DefrostSeen, is_too_long, read_defrost
from nudge.core.checks.form import Form
from nudge.core.checks.form_findings import Entries, FormFinding, State, number
from nudge.core.language.errors import CoreError
from nudge.core.language.said import say
from nudge.core.language.units import Quantity
from nudge.core.physics.air.filter_out import FilterOut, Motor, judge_filter_out
from nudge.core.physics.circuit.equipment import Plate
from nudge.core.physics.electrical.feed import judge_feed
from nudge.core.physics.heating.balance import heating_plate
from nudge.core.physics.heating.expected import WARMEST_C
from nudge.core.physics.heating.house import balance_point
from nudge.core.physics.heating.lockouts import lockouts_said

_LIVE = "Live work: rated gloves, one hand, licensed persons only."
FEED_FORM = "strips_feed"
CIRCUITS = ("first", "second", "third", "fourth")
INDOOR_C = 21.1
"""The house the balance point is worked out for: 70 °F."""
_MOTORS: Mapping[str, Motor] = {"psc": "psc", "ecm": "ecm"}


def _second_filter(plate: Plate, entries: Entries) -> FormFinding:
    seen = FilterOut(
        _MOTORS[str(entries["motor"])],
        number(entries, "static_in"),
        number(entries, "static_out"),
        number(entries, "watts_in"),
        number(entries, "watts_out"),
        number(entries, "airflow"),
    )
    may_stay, said = judge_filter_out(seen)
    if not said:
        raise CoreError("second_filter", "Give static, or watts, with it in and with it out.")
    return FormFinding("good" if may_stay else "bad", said)


def _feed(plate: Plate, entries: Entries) -> FormFinding:
    branches = [found for key in CIRCUITS if (found := number(entries, key)) is not None]
    feed = number(entries, "feed")
    if feed is None or len(branches) < 2:
        raise CoreError("feed", "Give the feed and at least two circuits.")
    adds_up, said = judge_feed(feed, branches)
    return FormFinding("good" if adds_up else "bad", (said,), (), {"strip_amps": feed})


def _lockouts(plate: Plate, entries: Entries) -> FormFinding:
    strips, compressor = number(entries, "strips_off_over"), number(entries, "compressor_off_under")
    if strips is None and compressor is None and entries.get("has") != "none":
        raise CoreError("lockouts", "Give what is set, or say that it has none.")
    set_to = replace(
        plate,
        strips_off_over_c=strips,
        compressor_off_under_c=compressor,
        strips_kw=plate.strips_kw or 1.0,
    )
    rated, even = heating_plate(plate), None
    if rated is not None and plate.house_loss_w_k:
        even = balance_point(rated, plate.house_loss_w_k, min(INDOOR_C, WARMEST_C))
    said = lockouts_said(set_to, even)
    if not said:
        return FormFinding("good", (say("The lockouts suit this house and this machine."),))
    crossed = said[0].template.startswith("Crossed")
    return FormFinding("bad" if crossed else "watch", said)


def _defrost(plate: Plate, entries: Entries) -> FormFinding:
    events = {event.key: entries[event.key] == "yes" for event in EVENTS if event.key in entries}
    seen = DefrostSeen(
        events,
        number(entries, "minutes"),
        number(entries, "every"),
        number(entries, "outdoor"),
        number(entries, "humidity"),
        plate.nominal_capacity_w,
    )
    row, said = read_defrost(seen)
    if row is not None:
        return FormFinding("bad", said)
    ice = entries.get("ice")
    more = (
        ()
        if ice != "between"
        else (
            say(
                "Ice between the fins after it ended: it did not clear. Light even frost is normal."
            ),
        )
    )
    state: State = "watch" if more or is_too_long(seen) else "good"
    fine = say("All four came: valve, fan, vapour line, and back to heat.")
    return FormFinding(state, (fine, *said, *more))


def _amps(key: str, label: str, needed: bool = False) -> Blank:
    return Blank(key, label, Quantity.CURRENT, (), 0.1, 200.0, needed)


def _static(key: str, label: str) -> Blank:
    return Blank(key, label, Quantity.STATIC_PRESSURE, (), -750, 750, is_needed=False)


HEATING_FORMS: tuple[Form, ...] = (
    Form(
        "second_filter",
        "A second filter, taken out and put back",
        "filter",
        (
            Blank(
                "motor",
                "Kind of motor",
                None,
                (("psc", "PSC, with a capacitor"), ("ecm", "ECM, constant airflow")),
            ),
            _static("static_in", "Static, with it in"),
            _static("static_out", "Static, with it out"),
            Blank(
                "watts_in",
                "Blower watts, with it in",
                Quantity.POWER,
                (),
                10,
                5_000,
                is_needed=False,
            ),
            Blank(
                "watts_out",
                "Blower watts, with it out",
                Quantity.POWER,
                (),
                10,
                5_000,
                is_needed=False,
            ),
            Blank("airflow", "Airflow", Quantity.AIRFLOW, (), 20, 5_000, is_needed=False),
        ),
        _second_filter,
        "Blower off while a filter comes out.",
    ),
    Form(
        FEED_FORM,
        "Strips against their feed",
        "electrical",
        (
            _amps("feed", "On the feed", needed=True),
            *(
                _amps(key, f"Clamp {n}, on a circuit", needed=n < 3)
                for n, key in enumerate(CIRCUITS, start=1)
            ),
        ),
        _feed,
        _LIVE,
    ),
    Form(
        "defrost",
        "A defrost, forced or waited for",
        "outdoor",
        (
            *(
                Blank(event.key, event.label, None, (("yes", "Yes"), ("no", "No")))
                for event in EVENTS
            ),
            Blank("minutes", "It took", Quantity.MINUTES, (), 0, 60, is_needed=False),
            Blank("every", "It comes every", Quantity.MINUTES, (), 5, 600, is_needed=False),
            Blank("outdoor", "Outdoor air", Quantity.TEMPERATURE, (), -40, 25, is_needed=False),
            Blank("humidity", "Outdoor humidity", Quantity.HUMIDITY, (), 5, 100, is_needed=False),
            Blank(
                "ice",
                "On the coil after it",
                None,
                (("clear", "Clear, or light and even"), ("between", "Ice between the fins")),
                is_needed=False,
            ),
        ),
        _defrost,
        "The fan starts again by itself. The board's pins: low-voltage ones only, with "
        "an insulated tool.",
    ),
    Form(
        "lockouts",
        "Lockouts, as the thermostat is set",
        "controls",
        (
            Blank(
                "strips_off_over",
                "Strips locked out over",
                Quantity.TEMPERATURE,
                (),
                -20,
                25,
                is_needed=False,
            ),
            Blank(
                "compressor_off_under",
                "Compressor locked out under",
                Quantity.TEMPERATURE,
                (),
                -40,
                20,
                is_needed=False,
            ),
            Blank(
                "has",
                "Has it any",
                None,
                (("set", "As entered"), ("none", "It has none")),
                is_needed=False,
            ),
        ),
        _lockouts,
    ),
)
