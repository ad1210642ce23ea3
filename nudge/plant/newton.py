"""Three equations in three unknowns: Newton's method, its slopes kept up by Broyden's update."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

Three = tuple[float, float, float]
Matrix = tuple[Three, Three, Three]

ENOUGH = 1e-7
GOOD = 2e-5
ROUNDS = 80
LONGEST_STEP = 0.35
NUDGE = 1e-6


@dataclass(frozen=True, slots=True)
class Root:
    """A solution, and the inverse slopes there: a near-by problem starts from both."""

    x: Three
    inverse: Matrix


def solve(
    residuals: Callable[[Three], Three],
    start: Three,
    held: Callable[[Sequence[float]], Three],
    inverse: Matrix | None = None,
) -> Root | None:
    """Find where all three residuals vanish; None when no step brings them down.

    `held` keeps a trial inside what can be evaluated. Residuals are scaled to about one.
    Source: Broyden 1965; slopes are measured afresh whenever the update stops helping.
    """
    x, here = start, residuals(start)
    slopes = inverse or measured(residuals, x, here)
    is_fresh = inverse is None
    for _ in range(ROUNDS):
        if slopes is None:
            return None
        if norm(here) < ENOUGH:
            break
        tried, there = _step(residuals, x, here, slopes, held)
        if tried is not None and there is not None:
            slopes, is_fresh = _updated(slopes, x, tried, here, there), False
            x, here = tried, there
        elif is_fresh:
            break
        else:
            slopes, is_fresh = measured(residuals, x, here), True
    return Root(x, slopes) if slopes is not None and norm(here) < GOOD else None


def measured(residuals: Callable[[Three], Three], x: Three, here: Three) -> Matrix | None:
    """The inverse of the slopes by small differences; None where they are degenerate."""
    columns = []
    for k in range(3):
        nudged = list(x)
        nudged[k] += NUDGE
        moved = residuals((nudged[0], nudged[1], nudged[2]))
        columns.append(tuple((b - a) / NUDGE for a, b in zip(here, moved, strict=True)))
    (a, d, g), (b, e, h), (c, f, i) = columns
    whole = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
    if abs(whole) < 1e-14:
        return None
    return (
        ((e * i - f * h) / whole, (c * h - b * i) / whole, (b * f - c * e) / whole),
        ((f * g - d * i) / whole, (a * i - c * g) / whole, (c * d - a * f) / whole),
        ((d * h - e * g) / whole, (b * g - a * h) / whole, (a * e - b * d) / whole),
    )


def norm(values: Sequence[float]) -> float:
    return max(abs(v) for v in values)


def _step(
    residuals: Callable[[Three], Three],
    x: Three,
    here: Three,
    slopes: Matrix,
    held: Callable[[Sequence[float]], Three],
) -> tuple[Three | None, Three | None]:
    """One damped step that brings the residuals down, or nothing."""
    step = _times(slopes, here)
    longest = norm(step)
    share = min(1.0, LONGEST_STEP / longest) if longest > 0 else 1.0
    size = norm(here)
    for _ in range(10):
        tried = held([a - share * s for a, s in zip(x, step, strict=True)])
        there = residuals(tried)
        if norm(there) < size * (1 - 0.05 * share):
            return tried, there
        share *= 0.4
    return None, None


def _updated(slopes: Matrix, x: Three, tried: Three, here: Three, there: Three) -> Matrix:
    """Broyden's rank-one update of the inverse (Sherman-Morrison)."""
    moved = [b - a for a, b in zip(x, tried, strict=True)]
    changed = [b - a for a, b in zip(here, there, strict=True)]
    seen = _times(slopes, changed)
    left = [sum(moved[k] * slopes[k][j] for k in range(3)) for j in range(3)]
    scale = sum(m * s for m, s in zip(moved, seen, strict=True))
    if abs(scale) < 1e-18:
        return slopes
    gap = [(m - s) / scale for m, s in zip(moved, seen, strict=True)]
    rows = [[slopes[i][j] + gap[i] * left[j] for j in range(3)] for i in range(3)]
    return _matrix(rows)


def _matrix(rows: Sequence[Sequence[float]]) -> Matrix:
    (a, b, c), (d, e, f), (g, h, i) = rows
    return (a, b, c), (d, e, f), (g, h, i)


def _times(matrix: Matrix, v: Sequence[float]) -> Three:
    a, b, c = (row[0] * v[0] + row[1] * v[1] + row[2] * v[2] for row in matrix)
    return a, b, c
