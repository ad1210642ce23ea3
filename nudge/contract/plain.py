"""The whole answer as plain text: for a screen reader, a report, a message."""

from collections.abc import Iterator

from nudge.contract.answer_shapes import AssessOut, NextCheckOut, SuspectOut

NAMED_FROM = 0.05
MOST_SUSPECTS, MOST_CHECKS = 4, 3


def plain_text(answer: AssessOut) -> str:
    """The answer read aloud: verdict, suspects with their evidence, checks, hazards."""
    return "\n".join(_lines(answer))


def _lines(answer: AssessOut) -> Iterator[str]:
    yield f"Verdict: {answer.charge.headline}"
    yield answer.charge.reason
    yield from (f"Care: {caution}" for caution in answer.charge.cautions)
    yield from (f"Danger: {hazard.message}" for hazard in answer.hazards)
    if answer.diagnosis is not None:
        yield " ".join(
            part
            for part in (answer.diagnosis.sentence, answer.diagnosis.act, answer.diagnosis.valve)
            if part
        )
    for gate in answer.readiness:
        yield f"{'Blocks' if gate.effect == 'blocks' else 'Mind'}: {gate.message}"
    for episode in answer.over_time:
        yield f"Over time: {episode.message}"
    for stretch in answer.walk:
        yield f"Walk: {stretch.message}"
    named = [s for s in answer.suspects if s.belief >= NAMED_FROM][:MOST_SUSPECTS]
    for suspect in named:
        yield from _suspect(suspect)
    for pair in answer.pairs:
        yield f"Two at once, {pair.belief:.0%}: {pair.label}. Order: {pair.order}."
    for number, check in enumerate(answer.next_checks[:MOST_CHECKS], start=1):
        yield from _check(number, check)


def _suspect(suspect: SuspectOut) -> Iterator[str]:
    which = f" ({suspect.which})" if suspect.which else ""
    yield f"Suspect, {suspect.belief:.0%}: {suspect.label}{which}."
    for word, sentences in (
        ("For", suspect.speaks_for),
        ("Against", suspect.against),
        ("Missing", suspect.missing),
    ):
        yield from (f"  {word}: {sentence}" for sentence in sentences)


def _check(number: int, check: NextCheckOut) -> Iterator[str]:
    yield f"Check {number}, {check.minutes:g} min: {check.label}. {check.why}"
    if check.caution:
        yield f"  Care: {check.caution}"
    for outcome in check.outcomes:
        yield f"  If {outcome.label.lower()}: {outcome.leads_label.lower()}, {outcome.belief:.0%}."
