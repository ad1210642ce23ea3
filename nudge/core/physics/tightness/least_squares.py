"""Least squares in which nothing may be negative: what was given off cannot be taken back."""

from collections.abc import Sequence
from math import sqrt
from operator import mul


def dot(p: Sequence[float], q: Sequence[float]) -> float:
    """The inner product of two columns of one length."""
    return float(sum(map(mul, p, q)))


def non_negative(gram: Sequence[Sequence[float]], aims: Sequence[float]) -> list[float]:
    """Least squares with no negative part, from its normal equations.

    Source: Lawson and Hanson 1974, chapter 23, algorithm NNLS.
    """
    size = [sqrt(row[n]) or 1.0 for n, row in enumerate(gram)]
    unit = [[v / (size[n] * size[m]) for m, v in enumerate(row)] for n, row in enumerate(gram)]
    aim = [v / size[n] for n, v in enumerate(aims)]
    found, free = [0.0] * len(aim), list[int]()
    floor = 1e-9 * max(*map(abs, aim), 1e-30)
    for _ in range(3 * len(aim)):
        pulls = [a - dot(row, found) for a, row in zip(aim, unit, strict=True)]
        shut = [n for n in range(len(aim)) if n not in free and gram[n][n] > 0]
        best = max(shut, key=lambda n: pulls[n], default=None)
        if best is None or pulls[best] <= floor:
            break
        free.append(best)
        while True:
            wanted = _solved(unit, aim, free)
            under = [n for n, v in zip(free, wanted, strict=True) if v <= 0]
            if not under:
                break
            now = dict(zip(free, wanted, strict=True))
            reach = min(found[n] / (found[n] - now[n]) if found[n] > now[n] else 1.0 for n in under)
            for n in free:
                found[n] += reach * (now[n] - found[n])
            free = [n for n in free if found[n] > 1e-12 and (n not in under or found[n] > 1e-9)]
            found = [v if n in free else 0.0 for n, v in enumerate(found)]
            if not free:
                break
        for n, v in zip(free, _solved(unit, aim, free), strict=True):
            found[n] = max(v, 0.0)
    return [v / size[n] for n, v in enumerate(found)]


def _solved(
    gram: Sequence[Sequence[float]], aims: Sequence[float], free: Sequence[int]
) -> list[float]:
    """The normal equations of some columns, by Gauss, a hair of a ridge on them."""
    rows = [[gram[n][m] + (1e-10 if n == m else 0.0) for m in free] + [aims[n]] for n in free]
    size = len(rows)
    for n in range(size):
        swap = max(range(n, size), key=lambda r: abs(rows[r][n]))
        rows[n], rows[swap] = rows[swap], rows[n]
        for r in range(n + 1, size):
            share = rows[r][n] / rows[n][n]
            if share:
                rows[r] = [a - share * b for a, b in zip(rows[r], rows[n], strict=True)]
    found = [0.0] * size
    for n in reversed(range(size)):
        rest = sum(rows[n][m] * found[m] for m in range(n + 1, size))
        found[n] = (rows[n][size] - rest) / rows[n][n]
    return found
