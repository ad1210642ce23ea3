"""A plant with many rooms on paper: its storeys at the log's last moment, patterns, numbers."""

from nudge.presenters.drawing.storeys import RoomBox
from nudge.presenters.zones import ZoneRoomOut, ZonesOut
from nudge.reports.paper import INK, MARGIN, RULE, SOFT, WIDTH, Paper
from nudge.reports.scaled import Hue, Scaled, ScaledPen

ALARM_HUE: Hue = (154, 36, 20)
PLAN_SHARE = 0.92
"""Of the page's width."""
MOST_NUMBERS = 40
NAME_PT, ROOM_PT = 6.5, 10.0
_STOREY, _PIPE, _RESTING = ScaledPen(0.2, RULE), ScaledPen(0.7, INK), ScaledPen(0.3, SOFT, 0.8)


def write_zones(pdf: Paper, zones: ZonesOut) -> None:
    """The plan, what its log shows, what moved since it was well, and its charge by the pipes."""
    pdf.head("The plant by its log", 120)
    _plan(pdf, zones)
    hours, minutes = divmod(zones.kept_minutes, 60)
    pdf.line_of(
        f"{hours} h {minutes} min of its log count: running, past the warm-up, in one mode. "
        f"Rooms in {zones.unit}."
    )
    if zones.beliefs:
        pdf.rows(
            ("What it may be", "", "Parted by"),
            [(b.label, f"{b.percent:.0f} %", b.parted_by or b.sentence) for b in zones.beliefs],
            (52, 16, 110),
        )
    pdf.listed(zones.remarks)
    _numbers(pdf, zones)
    if zones.against is not None:
        _against(pdf, zones)
    if zones.charge.total is not None:
        pdf.head("Its charge, by plate and pipes", 24)
        pdf.listed([f"{one.today}" for one in (*zones.charge.pipes, zones.charge.total)])
        pdf.line_of("Weighed in after all of it was recovered; never added to what is there.")


def _numbers(pdf: Paper, zones: ZonesOut) -> None:
    """What is out of what is usual, of the plant and of the room that is off furthest."""
    whose = [("The plant", zones.signs), *((room.name, room.signs) for room in zones.rooms)]
    rows = [
        (name, f"{sign.label}: {sign.text}", sign.usual)
        for name, signs in whose
        for sign in signs
        if sign.is_off
    ]
    if rows:
        pdf.head("Numbers off their usual", 24)
        pdf.rows(("", "Off the log", "Usual"), rows[:MOST_NUMBERS], (44, 84, 50))


def _against(pdf: Paper, zones: ZonesOut) -> None:
    found = zones.against
    assert found is not None
    pdf.head(f"Beside its own log of {found.at:%Y-%m-%d}", 24)
    if found.apart or not found.moved:
        pdf.line_of(found.apart or "Nothing moved that is worth a look.")
        return
    rows = [(one.label, one.then, one.now) for one in found.moved]
    pdf.rows(("", "Then", "Now"), rows, (90, 44, 44))


def _plan(pdf: Paper, zones: ZonesOut) -> None:
    plan = zones.plan
    scale = WIDTH * PLAN_SHARE / plan.width
    page = Scaled(pdf, MARGIN, pdf.get_y() + 1, scale)
    for floor, name in plan.storeys:
        page.line([(20, floor), (plan.width - 20, floor)], _STOREY)
        _text(page, 4, floor - 8, name, NAME_PT, SOFT)
    page.line([(x, y) for x, y in plan.riser], _PIPE)
    x, y, width, height = plan.plant
    _box(page, x, y, width, height, "outdoor" in zones.carried)
    hz = zones.frames.hz[-1] if zones.frames.hz else None
    _text(page, x + 10, y + 26, f"{hz:g} Hz" if hz else "at rest", ROOM_PT, INK)
    _text(page, x + 10, y + 52, zones.frames.mode[-1] if zones.frames.mode else "", NAME_PT, SOFT)
    rooms = {room.key: room for room in zones.rooms}
    for box in plan.rooms:
        _room(page, box, rooms.get(box.key), box.key in zones.carried)
    for branch in plan.branches:
        _box(page, branch.x, branch.y, branch.width, branch.height, False)
        _text(page, branch.x + 5, branch.y + 13, branch.name[:6], NAME_PT, INK)
    pdf.set_y(page.top + plan.height * scale + 3)
    pdf.ink()


def _room(page: Scaled, box: RoomBox, room: ZoneRoomOut | None, carries: bool) -> None:
    calls = room is not None and bool(room.calls) and room.calls[-1]
    page.line([(x, y) for x, y in box.pipe], _PIPE if calls else _RESTING)
    _box(page, box.x, box.y, box.width, box.height, carries)
    _text(page, *box.name_at, box.name[: box.letters], NAME_PT, SOFT)
    has, wants = (room.has[-1], room.wants[-1]) if room is not None else (None, None)
    now = "–" if has is None else f"{has:.1f}"
    _text(page, *box.has_at, now, ROOM_PT, ALARM_HUE if carries else INK)
    if wants is not None:
        _text(page, *box.wants_at, f"wants {wants:.1f}", NAME_PT, SOFT)


def _box(page: Scaled, x: float, y: float, width: float, height: float, carries: bool) -> None:
    page.pdf.set_draw_color(*(ALARM_HUE if carries else RULE))
    page.pdf.set_fill_color(255, 255, 255)
    page.pdf.set_line_width(0.8 if carries else 0.25)
    left, top = page.at(x, y)
    page.pdf.rect(left, top, width * page.scale, height * page.scale, style="DF")


def _text(page: Scaled, x: float, y: float, text: str, size: float, hue: Hue) -> None:
    page.pdf.set_font("text", "B" if size == ROOM_PT else "", size)
    page.pdf.set_text_color(*hue)
    page.pdf.text(*page.at(x, y), text)
