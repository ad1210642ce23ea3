"""Strips fed by one pair of wires and split into circuits: the amps must add up."""

from collections.abc import Sequence
from itertools import combinations

from nudge.core.language.said import Measure, Said, say
from nudge.core.language.units import Quantity

ALIKE = 0.08
"""Two clamps this near each other (share) may be on the two legs of one circuit."""
ADDS_UP = 0.07
"""A sum this near the feed (share) adds up: clamps are good for 2 % each."""


def judge_feed(feed_a: float, branches_a: Sequence[float]) -> tuple[bool, Said]:
    """Whether branches [A] add up to their feed [A], and what to do where they do not.

    A feed of 31 A with 16, 15 and 15 on its branches: one leg was counted twice.
    """
    total = sum(branches_a)
    amounts = {"sum": _amps(total), "feed": _amps(feed_a)}
    if abs(total - feed_a) <= ADDS_UP * feed_a:
        return True, say("The circuits add up: {sum} against {feed} on the feed.", **amounts)
    if total < feed_a:
        short = say(
            "{sum} on the circuits, {feed} on the feed: a circuit is not in any clamp. Find the "
            "one that is missing.",
            **amounts,
        )
        return False, short
    over = total - feed_a
    names = [f"clamp {n + 1}" for n in range(len(branches_a))]
    pairs = combinations(zip(names, branches_a, strict=True), 2)
    for (one, a), (other, b) in sorted(pairs, key=lambda pair: abs(pair[0][1] - pair[1][1])):
        alike = abs(a - b) <= ALIKE * max(a, b)
        if alike and abs(over - b) <= ADDS_UP * feed_a:
            twice = say(
                f"{{sum}} on the circuits, {{feed}} on the feed: {one} and {other} read alike and "
                f"are the two legs of one circuit. Move {other} to the circuit that is left, or "
                "leave it out.",
                **amounts,
            )
            return False, twice
    other_load = say(
        "{sum} on the circuits, {feed} on the feed: something else runs in a clamp, or the clamp "
        "on the feed holds one leg of two.",
        **amounts,
    )
    return False, other_load


def _amps(value: float) -> Measure:
    return Measure(value, Quantity.CURRENT)
