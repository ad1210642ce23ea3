"""The customer’s page: what was found, what was done, what is left, in plain words."""

from nudge.contract.answer_shapes import AssessOut
from nudge.core.language.units import Quantity, unit_label
from nudge.reports.attached import Subject, cut
from nudge.reports.map_on_paper import draw_map
from nudge.reports.nothing_found import nothing_found
from nudge.reports.paper import MARGIN, WIDTH, Paper
from nudge.reports.scaled import Scaled
from nudge.reports.written import new_paper

CALL_MM, FOOT_MM = 247.0, 262.0
"""Where “Who to call” and the last line stand on the page."""
LEAST_PICTURE_MM = 45.0
OPEN_CIRCUIT = "open_circuit"
NUMBERS = (
    ("Superheat: how well the indoor coil is fed", "superheat"),
    ("Subcooling: how full of liquid the outdoor coil is", "subcooling"),
)


def customer_report(subject: Subject) -> bytes:
    """One page in plain words: what was found, what was done, what is left."""
    visit, order = subject.visit, subject.order
    dangers = order.dangers
    pdf = new_paper(subject, "Not finished yet" if dangers else "Report")
    pdf.set_auto_page_break(False)
    if subject.card.get("name"):
        pdf.line_of(subject.card["name"], 10, bold=True)
        pdf.ln(1)
    pdf.line_of(subject.place, 18, bold=True)
    pdf.line_of(subject.at(visit.closed_at or visit.opened_at), 10, soft=True)
    pdf.ln(2)
    for danger in dangers:
        pdf.care(f"Please mind: {cut(danger, 200)}")
    if visit.complaint:
        pdf.line_of(f"You told us: “{cut(visit.complaint, 300)}”", 11)
    pdf.head("What was found")
    for line in _found(subject)[:6]:
        pdf.line_of(cut(line, 260), 11)
    pdf.head("What was done")
    done = _done(subject)
    for line in (done or ["Nothing was changed on the system."])[:9]:
        pdf.line_of(cut(line, 200), 11)
    changed = _before_and_after(subject)
    if changed:
        pdf.head("Before and after")
        pdf.rows(("", "Before", "After"), changed, (98, 40, 40))
    pdf.head("What is left")
    left = [f"{item.text} ({item.season.lower()})" for item in order.deferred][:6]
    if dangers:
        left.insert(0, "What this page begins with is still to be done.")
    for line in left or ["Nothing is left open."]:
        pdf.line_of(cut(line, 200), 11)
    _customer_picture(pdf, subject)
    called = [subject.card.get(key, "") for key in ("call", "licence")]
    if any(called):
        pdf.set_y(max(pdf.get_y() + 3, CALL_MM))
        pdf.line_of("Who to call", 11, bold=True)
        pdf.line_of(" · ".join(line for line in called if line), 11)
    pdf.set_y(max(pdf.get_y() + 1, FOOT_MM))
    foot = (
        "Numbers, readings and reasons are in the full record of this visit. Work on refrigerant "
        "and on electrical parts is for licensed persons."
    )
    pdf.line_of(foot, 8.5, soft=True)
    return bytes(pdf.output())


def _found(subject: Subject) -> list[str]:
    """What was found, as one would tell a customer."""
    visit, order = subject.visit, subject.order
    lines = []
    if visit.look is not None:
        lines.append(
            "The system works as it should by its temperatures; it was not opened."
            if visit.look.decision == "leave_caps_on"
            else "Its temperatures ask for a closer look with gauges."
        )
    elif visit.assessment is not None:
        lines += _told(visit.assessment)
    if visit.recovered is not None and visit.recovered.short:
        lines.append(
            "When it was opened there was too little refrigerant in it: it had been running short."
        )
    for check in order.checks:
        if check.state in ("bad", "watch"):
            lines.append(f"{check.label}: {' '.join(check.said)}")
    if order.drift is not None and order.drift.is_flagged:
        lines.append(f"Since the last good visit: {order.drift.said}")
    outcome = nothing_found(subject)
    if outcome is not None and outcome.likeliest:
        lines.append(
            "Nothing wrong was found. Should it come back, what is looked at first: "
            f"{outcome.likeliest.partition(' (')[0].lower()}."
        )
    return lines or ["Nothing wrong was found with what was tested."]


HEAT_TOLD = {
    "heat_right": "It gives the heat it should in this cold.",
    "heat_short": "It gives less heat than it should.",
    "heat_over": "More heat was measured than it can make itself: electric heat was on, or the "
    "air was misread.",
    "heat_dear": "It heats, and draws more electricity than it should.",
    "heat_no_superheat": "Liquid may be coming back to its compressor. That is followed up before "
    "anything is renewed.",
    "heat_suspect": "It was tested while it heated.",
    "heat_not_yet": "Its heat could not be judged yet.",
    "heat_spoilt": "Its heat could not be judged today.",
    "heat_unread": "Its heat was not measured.",
    "heat_gauge_on_hot_gas": "Its heat could not be judged today.",
}
"""What a heating visit came to, as one would tell a customer: charge is not judged there."""
TOLD = HEAT_TOLD | {
    "sheet_doubted": "It is tight and was filled by weight, and needs more than its papers say: "
    "their figures are being checked.",
    "room_right": "The cold room works as it was designed to.",
    "room_not_yet": "The cold room was too far from its set temperature, or not at rest, to be "
    "judged.",
    "room_unread": "Not everything was measured that tells how the cold room works.",
    "room_suspect": "What holds the cold room back was found; it is named in the file copy.",
    "room_floods": "Its cooling coil gets more refrigerant than it can use.",
    "room_starves": "Its cooling coil gets less refrigerant than it could use. What holds it back "
    "is looked for; if some was lost, there is a leak.",
    "room_boils_low": "Too little air goes through its cooling coil: fans, ice or goods before it.",
    "room_boils_high": "Its compressor takes less than the cooling coil gives.",
    "room_head": "The unit that gives off its heat works outside its design.",
    "vehicle_passes": "It cools as it should by three temperature tests. A vehicle that is a third "
    "short of refrigerant passes them too: only weighing tells.",
    "vehicle_starved": "Too little refrigerant reaches its evaporator. What was lost went "
    "somewhere: the leak is looked for, and it is filled by weight.",
    "vehicle_overfed": "Too much refrigerant reaches its evaporator. It is emptied, weighed and "
    "filled by weight.",
    "vehicle_hot": "The condenser at its front works too hard: its air is looked at first.",
    "vehicle_idle": "Its compressor moves too little.",
    "vehicle_warm": "Its cooling works; warm air is mixed in on the way to the vents.",
    "vehicle_orifice": "It cannot be judged by these tests.",
    "vehicle_not_yet": "It could not be made ready to be tested today.",
    "vehicle_foot_outlet": "It could not be judged today.",
    "vehicle_exchanged": "It could not be judged today.",
    "vehicle_unread": "Not all three tests were made, so nothing is judged.",
    "zones_not_an_hour": "What it recorded of itself is shorter than an hour. Such a plant is "
    "judged from longer.",
    "zones_named": "What it recorded of itself shows what is most likely wrong:",
    "zones_open": "What it recorded of itself does not tell yet what is wrong. What would tell is "
    "named in the file copy.",
    "zones_well": "Nothing wrong stands out in what it recorded of itself.",
}
"""And visits on other plant, where charge is not judged either."""


def _told(assessed: AssessOut) -> list[str]:
    """The decision and what was diagnosed, as one would tell a customer."""
    decision, advice = assessed.decision, assessed.decision.advice
    if decision.key == OPEN_CIRCUIT:
        return [
            "It is open for repair: no refrigerant is in it, and it must not be started until it "
            "is tested and filled again."
        ]
    lines = []
    if decision.key in TOLD:
        told = [TOLD[decision.key]]
        found = assessed.diagnosis
        if decision.key == "heat_suspect" and found is not None:
            told.append(found.sentence)
        if decision.key == "zones_named":
            told.append(decision.headline)
        return told
    if decision.order == "danger":
        lines.append("The system had to be stopped: it was working outside what is safe for it.")
    leaked = (
        "Refrigerant has leaked out. The leak comes first, before any is added."
        if decision.hangs_on is None
        else "Refrigerant has very likely leaked out: that "
        "is confirmed first, then the leak is looked for."
    )
    lines.append(
        {
            "leave": "The refrigerant charge is right.",
            "add": "There was too little refrigerant in it. Refrigerant does not wear out: it "
            "went somewhere, so the leak is to be found.",
            "remove": "There was too much refrigerant in it.",
            "find_leak": leaked,
            "weigh_in": "It was emptied for the work and is being filled by weight.",
            "do_not_charge": "The refrigerant charge could not be judged, or is not the trouble.",
        }[advice]
    )
    diagnosis = assessed.diagnosis
    about_charge = advice != "do_not_charge"
    if diagnosis is not None and diagnosis.confidence != "open" and not about_charge:
        lines.append(diagnosis.sentence)
    return lines


def _done(subject: Subject) -> list[str]:
    visit = subject.visit
    lines = [step.done + "." for step in visit.footprints if step.done]
    moved = [
        f"{d.amount:g} {d.unit} of refrigerant {'taken out' if d.removes else 'added'}."
        for d in visit.doses
    ]
    tested = [c.label.lower() for c in subject.order.checks if c.entries]
    lines = [line for line in dict.fromkeys(lines) if "efrigerant" not in line] + moved
    if tested:
        lines.append(f"Tested: {', '.join(tested)}.")
    proven = [
        fact
        for test in (subject.tests.tests if subject.tests else ())
        if test.proven
        for fact in test.proves
    ]
    lines += [f"Proven: {fact.lower()}." for fact in dict.fromkeys(proven[::-1])]
    if visit.observations and not tested:
        lines.append("The system was looked over.")
    return lines


def _before_and_after(subject: Subject) -> list[tuple[str, str, str]]:
    """What a customer can feel and what the work was judged by: first and last of the visit."""
    visit, steps = subject.visit, subject.visit.footprints
    if len(steps) < 2 or not any(step.done for step in steps):
        return []
    air = sorted(
        (r for r in visit.readings if r.point == "supply_air_temp" and r.state != "void"),
        key=lambda reading: reading.taken_at,
    )
    found = []
    if len(air) > 1:
        shown = [f"{r.value:.{r.decimals}f} {r.unit}" for r in (air[0], air[-1])]
        found.append(("Air as it comes out", shown[0], shown[1]))
    unit = unit_label(Quantity.TEMPERATURE_DIFFERENCE, subject.units)
    for words, key in NUMBERS:
        ends = [f"{getattr(step, key):.1f} {unit}" for step in (steps[0], steps[-1])]
        found.append((words, ends[0], ends[1]))
    return found


def _customer_picture(pdf: Paper, subject: Subject) -> None:
    """One picture: what was photographed, or else the way to the target."""
    top = pdf.get_y() + 3
    room = CALL_MM - 4 - top
    if room < LEAST_PICTURE_MM:
        return
    if not subject.pictures:
        if len(subject.visit.footprints) > 1 and subject.visit.target_map:
            drawn = subject.visit.target_map[-1]
            scale = min(WIDTH / drawn.width, room / drawn.height)
            draw_map(Scaled(pdf, MARGIN, top, scale), drawn)
        return
    pdf.set_y(top)
    each = 56.0
    for number, (photo, data) in enumerate(subject.pictures[:3]):
        height = min(each * photo.height / max(photo.width, 1), room)
        pdf.image(data, MARGIN + number * (each + 5), top, w=each, h=height, keep_aspect_ratio=True)
