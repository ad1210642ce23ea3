"""The customer’s page: what was found, what was done, what is left, in plain words."""

from nudge.reports.attached import Subject, cut
from nudge.reports.paper import MARGIN, Paper
from nudge.reports.written import new_paper


def customer_report(subject: Subject) -> bytes:
    """One page in plain words: what was found, what was done, what is left."""
    visit, order = subject.visit, subject.order
    dangers = order.dangers
    pdf = new_paper(subject, "Not finished yet" if dangers else "Report")
    pdf.set_auto_page_break(False)
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
    pdf.head("What is left")
    left = [f"{item.text} ({item.season.lower()})" for item in order.deferred][:6]
    for line in left or ["Nothing is left open."]:
        pdf.line_of(cut(line, 200), 11)
    _customer_picture(pdf, subject)
    pdf.set_y(262)
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
        decision = visit.assessment.decision
        advice = decision.advice
        if decision.order == "danger":
            lines.append(
                "The system had to be stopped: it was working outside what is safe for it."
            )
        leaked = (
            "Refrigerant has leaked out. The leak comes first, before any is added."
            if decision.hangs_on is None
            else "Refrigerant has very likely leaked out: one "
            "thing is confirmed first, then the leak is looked for."
        )
        lines.append(
            {
                "leave": "The refrigerant charge is right.",
                "add": "There was too little refrigerant in it. Refrigerant does not wear out: it "
                "went somewhere, so the leak is to be found.",
                "remove": "There was too much refrigerant in it.",
                "find_leak": leaked,
                "do_not_charge": "The refrigerant charge could not be judged, "
                "or is not the trouble.",
            }[advice]
        )
        diagnosis = visit.assessment.diagnosis
        about_charge = advice in ("leave", "add", "remove", "find_leak")
        if diagnosis is not None and diagnosis.confidence != "open" and not about_charge:
            lines.append(diagnosis.sentence)
    for check in order.checks:
        if check.state in ("bad", "watch"):
            lines.append(f"{check.label}: {' '.join(check.said)}")
    if order.drift is not None and order.drift.is_flagged:
        lines.append(f"Since the last good visit: {order.drift.said}")
    return lines or ["Nothing wrong was found with what was tested."]


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
    if visit.observations and not tested:
        lines.append("The system was looked over.")
    return lines


def _customer_picture(pdf: Paper, subject: Subject) -> None:
    if not subject.pictures or pdf.get_y() > 195:
        return
    pdf.ln(3)
    top, each = pdf.get_y(), 56.0
    for number, (photo, data) in enumerate(subject.pictures[:3]):
        height = min(each * photo.height / max(photo.width, 1), 255 - top)
        pdf.image(data, MARGIN + number * (each + 5), top, w=each, h=height, keep_aspect_ratio=True)
