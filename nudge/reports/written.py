"""What goes on paper, and in which words: the whole record, and one plain page."""

from collections.abc import Callable
from datetime import datetime

from nudge.core.language.units import unit_label
from nudge.core.physics.circuit.derived_table import DERIVED
from nudge.core.settling.gates import GATES
from nudge.core.targets.choose import SCHOOLS
from nudge.presenters.notes import NoteOut
from nudge.presenters.visit_order import CheckOut
from nudge.presenters.visits import VisitOut
from nudge.reports.attached import (
    Subject,
    charts_page,
    cut,
    pictures_page,
    plate_page,
    readings_page,
)
from nudge.reports.certificate import STATES
from nudge.reports.circuit_on_paper import circuit_on_paper
from nudge.reports.film_on_paper import draw_film
from nudge.reports.heat_on_paper import write_heat
from nudge.reports.loop_on_paper import draw_loop
from nudge.reports.map_on_paper import draw_map
from nudge.reports.nothing_found import nothing_found
from nudge.reports.paper import MARGIN, WIDTH, Paper
from nudge.reports.scaled import Scaled
from nudge.reports.strips_on_paper import draw_strips
from nudge.reports.zones_on_paper import write_zones

NAMED_FROM = 0.05


def file_report(subject: Subject) -> bytes:
    """The complete record of a visit as PDF."""
    visit, order = subject.visit, subject.order
    pdf = new_paper(subject, "Visit record")
    pdf.line_of(" · ".join(("Visit record", *filter(None, subject.card.values()))), 9, soft=True)
    pdf.line_of(subject.place, 17, bold=True)
    pdf.line_of(visit.system.summary, 10, soft=True)
    pdf.ln(1)
    kind = next((k.label for k in order.kinds if k.key == order.kind), order.kind)
    pdf.pairs(
        [
            ("Kind of call", kind),
            ("Complaint", visit.complaint),
            ("Opened", subject.at(visit.opened_at)),
            ("Closed", subject.at(visit.closed_at) or "still open"),
            ("Nudge", subject.version),
        ]
    )
    _verdict(pdf, subject)
    if subject.zones is not None:
        write_zones(pdf, subject.zones)
    _drawings(pdf, subject)
    _numbers(pdf, subject)
    _work(pdf, subject)
    _doses(pdf, subject)
    _overrides(pdf, subject)
    _left(pdf, subject)
    plate_page(pdf, subject)
    readings_page(pdf, subject)
    charts_page(pdf, subject)
    pictures_page(pdf, subject)
    return bytes(pdf.output())


def new_paper(subject: Subject, title: str) -> Paper:
    foot = f"{title} · {cut(subject.place, 70)} · {subject.at(subject.visit.opened_at)}"
    return Paper(f"{title}: {subject.place}", foot, subject.written)


def verdict_lines(visit: VisitOut, at: Callable[[datetime], str] = str) -> list[str]:
    """The decision on paper: what it says, why, what it hangs on, what moves, when to read again.

    `at` writes a moment as the reader's clock shows it.
    """
    if visit.assessment is None:
        return [visit.problem or "Nothing was read, so nothing is judged."]
    decision = visit.assessment.decision
    lines = [decision.headline, decision.reason]
    if decision.hangs_on is not None and decision.hangs_on.kind != "minutes":
        asked = (decision.hangs_on, *decision.also_hangs_on)
        lines.append(f"It hangs on: {', and '.join(one.label for one in asked)}.")
    if decision.dose is not None:
        dose, way = decision.dose, "Out" if decision.dose.amount < 0 else "In"
        lines.append(
            f"{way}: {abs(dose.amount):g} {dose.unit}; then {dose.watched} near {dose.middle:g}."
        )
    if decision.ready_at is not None:
        lines.append(f"To be read again from {at(decision.ready_at)}.")
    return lines


def _verdict(pdf: Paper, subject: Subject) -> None:
    visit = subject.visit
    pdf.head("Verdict")
    if visit.look is not None:
        pdf.line_of(visit.look.headline, 13, bold=True)
        pdf.listed(visit.look.reasons)
        pdf.line_of(
            "By temperatures alone, gauges left off: saturations are estimates.", 9, soft=True
        )
        return
    assessed = visit.assessment
    if assessed is None:
        pdf.line_of(visit.problem or "Nothing was read, so nothing is judged.", 11)
        return
    headline, *said = verdict_lines(visit, subject.at)
    pdf.line_of(headline, 13, bold=True)
    for line in said:
        pdf.line_of(line)
    school = next((s for s in SCHOOLS if s.key == assessed.charge.method), None)
    pdf.pairs(
        [
            ("Method", school.label if school else "no method decides"),
            (
                "Other methods",
                "; ".join(f"{o.label}: {o.state}" for o in assessed.charge.other_methods),
            ),
        ]
    )
    if assessed.diagnosis is not None:
        pdf.line_of(f"{assessed.diagnosis.sentence} {assessed.diagnosis.act}".strip())
    for hazard in assessed.hazards:
        pdf.care(f"Danger: {hazard.message}")
    for suspect in [s for s in assessed.suspects if s.belief >= NAMED_FROM][:4]:
        pdf.keep(14)
        pdf.line_of(f"{suspect.label}, {suspect.belief:.0%}", 10, bold=True)
        for word, lines in (
            ("For", suspect.speaks_for),
            ("Against", suspect.against),
            ("Missing", suspect.missing),
        ):
            if lines:
                pdf.pairs([(f"  {word}", " ".join(lines))], 22)
    outcome = nothing_found(subject)
    if outcome is not None:
        pdf.keep(20)
        pdf.line_of("Nothing found wrong", 10, bold=True)
        pdf.pairs(outcome.pairs())
    gates = [
        f"{'Blocks' if g.effect == 'blocks' and not g.passed else 'Mind'}: {g.message}"
        for g in assessed.readiness
    ]
    pdf.listed(gates)


def _drawings(pdf: Paper, subject: Subject) -> None:
    visit, assessed = subject.visit, subject.visit.assessment
    if assessed is None or visit.look is not None:
        return
    drawn = visit.stage[-1]
    if not drawn.is_empty:
        pdf.head("The Loop", 98)
        top = pdf.get_y() + 1
        pdf.set_y(top + draw_loop(pdf, MARGIN, top, WIDTH, drawn) + 3)
    if visit.heat is not None:
        write_heat(pdf, visit.heat)
    if visit.target_map and visit.heat is None:  # charge has no target in heating
        pdf.head("The target map", 98)
        page = Scaled(pdf, MARGIN, pdf.get_y() + 1, WIDTH / visit.target_map[-1].width)
        draw_map(page, visit.target_map[-1])
        pdf.set_y(page.top + visit.target_map[-1].height * page.scale + 3)
    if subject.series is not None and subject.series.traces:
        pdf.head("Settling", 72)
        draw_strips(pdf, (MARGIN, pdf.get_y() + 1, WIDTH, 62), subject.series, assessed.targets)
        pdf.set_y(pdf.get_y() + 68)
    pdf.ink()


def _numbers(pdf: Paper, subject: Subject) -> None:
    assessed = subject.visit.assessment
    if assessed is None:
        return
    rows = []
    for key, value in assessed.derived.items():
        if value is None:
            continue
        row = DERIVED[key]
        target = assessed.targets.get(key)
        window = "" if target is None else f"{target.low:.1f} to {target.high:.1f}, {target.source}"
        rows.append((row.label, f"{value:,.1f} {unit_label(row.quantity, subject.units)}", window))
    if rows:
        pdf.head("Numbers")
        pdf.rows(("Number", "Value", "Target, and where it is from"), rows, (60, 38, 80))


def _work(pdf: Paper, subject: Subject) -> None:
    order = subject.order
    checks = [c for c in order.checks if c.entries]
    if checks:
        pdf.head("Checks")
        pdf.rows(
            ("Check", "Entered", "Found"),
            [(c.label, _entered(c), " ".join(c.said)) for c in checks],
            (42, 62, 74),
        )
    circuit_on_paper(pdf, subject)
    _tests(pdf, subject)
    if order.notes:
        pdf.head("Notes")
        for note in order.notes:
            pdf.pairs([(note.subsystem_label + _whose(note), note.text)])
    pdf.head("Order of work")
    marks = {"done": "done", "skipped": "skipped", "open": "not done"}
    for stage in order.stages:
        steps = []
        for step in stage.steps:
            why = f" (because: {step.reason})" if step.reason else ""
            steps.append(f"{step.label}: {marks[step.state]}{why}")
        pdf.pairs([(stage.label, "; ".join(steps) or "nothing to do")])


def _tests(pdf: Paper, subject: Subject) -> None:
    """Tests with time, oldest first: what each showed, and what it proved."""
    if subject.tests is None:
        return
    pdf.head("Tests with time")
    for test in subject.tests.tests[::-1]:
        proves = f" Proves: {', '.join(test.proves).lower()}." if test.proven else ""
        over = "" if test.ended_at else " Not ended."
        words = " ".join((f"{STATES[test.state]}. {test.headline}", *test.hazards, *test.says[:1]))
        pdf.pairs([(test.label.partition(":")[0], f"{words}{proves}{over}")])
    film = subject.tests.film[-1] if subject.tests.film else None
    if film is not None:
        scale = WIDTH / film.width
        pdf.keep(film.height * scale + 4)
        draw_film(Scaled(pdf, MARGIN, pdf.get_y() + 1, scale), film)
        pdf.set_y(pdf.get_y() + film.height * scale + 3)


def _whose(note: NoteOut) -> str:
    return ", from the office" if note.written_from == "office" else ""


def _entered(check: CheckOut) -> str:
    words = []
    for blank in check.blanks:
        value = check.entries.get(blank.key)
        if value is None:
            continue
        if isinstance(value, str):
            words.append(f"{blank.label}: {dict(blank.choices).get(value, value)}")
        else:
            words.append(f"{blank.label}: {value:g} {blank.unit}")
    return "; ".join(words)


def _doses(pdf: Paper, subject: Subject) -> None:
    visit = subject.visit
    if not visit.doses:
        return
    pdf.head("Refrigerant moved")
    total = sum(-d.amount if d.removes else d.amount for d in visit.doses)
    pdf.rows(
        ("When", "What", "Amount"),
        [
            (
                subject.at(d.happened_at),
                "taken out" if d.removes else "added",
                f"{d.amount:g} {d.unit}",
            )
            for d in visit.doses
        ],
        (60, 60, 58),
    )
    more = "more" if total >= 0 else "less"
    said = f"{visit.system.refrigerant}: {abs(total):.1f} {visit.doses[0].unit} {more} in it."
    if subject.cylinders:
        said += f" Cylinder: {', '.join(subject.cylinders)}."
    pdf.line_of(said)
    if visit.recovered is not None:
        pdf.line_of(visit.recovered.said, bold=visit.recovered.short)


def _overrides(pdf: Paper, subject: Subject) -> None:
    skipped = [
        f"{step.label}: skipped, because: {step.reason}"
        for stage in subject.order.stages
        for step in stage.steps
        if step.state == "skipped" and step.blocks
    ]
    passed = []
    for gate, reason, at in subject.passed:
        label = next((g.reason for g in GATES if g.key == gate), gate)
        words = f"because: {reason}" if reason else "taken back"
        passed.append(
            f"{subject.at(at)} {label} Passed, {words}"
            if reason
            else f"{subject.at(at)} {label} {words}"
        )
    if skipped or passed:
        pdf.head("Passed and skipped, with the reason given")
        pdf.listed([*passed, *skipped])


def _left(pdf: Paper, subject: Subject) -> None:
    order = subject.order
    if order.dangers:
        pdf.head("Open when this was printed")
        for danger in order.dangers:
            pdf.care(danger)
    if order.deferred:
        pdf.head("Left for later")
        pdf.listed(
            [
                f"{d.text} ({d.season.lower()}{f', {d.due_on}' if d.due_on else ''})"
                for d in order.deferred
            ]
        )
    if order.drift is not None:
        pdf.head("Against the baseline")
        pdf.line_of(f"Baseline of {subject.at(order.drift.since)}. {order.drift.said}")
        for change in order.drift.intended:
            pdf.listed([f"Changed on purpose since: {change}"])
