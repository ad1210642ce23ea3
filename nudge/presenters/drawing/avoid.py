"""Labels that keep out of each other's way and off the lines.

Everything drawn becomes small boxes. A label has candidates, best first; it takes the one that
covers least, and then stands in the way of those after it.
"""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from math import ceil, hypot

import numpy as np
from numpy.typing import NDArray

Box = tuple[float, float, float, float]
"""Left, top, right, bottom."""
STEP = 8.0
"""How closely a slanted line is followed by boxes."""
LETTERS, LINES = 3.0, 1.0
"""How bad it is to cover a unit of area of other letters, and of a line's boxes."""
MOST_BOXES = 512
"""More than any drawing has; what comes after is in nobody's way."""
PER_RANK = 6.0
"""What a candidate further down its list costs: as much as this area of line."""


CELLS = 480
"""Pairs of boxes compared at once. Over 500 numpy hands the interpreter on during each step, and
while other requests are worked on every step then waits 5 ms for its turn."""


def _covered(found: NDArray[np.float64], taken: NDArray[np.float64]) -> NDArray[np.float64]:
    """What each box covers of those taken, by their weights."""
    wide = np.minimum(found[:, :, 2], taken[:, 2]) - np.maximum(found[:, :, 0], taken[:, 0])
    high = np.minimum(found[:, :, 3], taken[:, 3]) - np.maximum(found[:, :, 1], taken[:, 1])
    areas = np.maximum(wide, 0) * np.maximum(high, 0) * taken[:, 4]
    total: NDArray[np.float64] = areas.sum(axis=1)
    return total


class LabelRoom:
    """What is taken so far in a frame of `width` by `height`."""

    def __init__(self, width: float, height: float) -> None:
        self._width, self._height = width, height
        self._taken = np.empty((MOST_BOXES, 5))
        self._count = 0

    def draw(self, points: Sequence[tuple[float, float]], thick: float = 4.0) -> None:
        """A line is in the way."""
        half = thick / 2
        for (x0, y0), (x1, y1) in pairwise(points):
            is_straight = x0 == x1 or y0 == y1
            count = 1 if is_straight else max(1, ceil(hypot(x1 - x0, y1 - y0) / STEP))
            for n in range(count):
                xs = sorted((x0 + (x1 - x0) * n / count, x0 + (x1 - x0) * (n + 1) / count))
                ys = sorted((y0 + (y1 - y0) * n / count, y0 + (y1 - y0) * (n + 1) / count))
                box = (xs[0] - half, ys[0] - half, xs[1] + half, ys[1] + half)
                self._add(box, LINES)

    def take(self, box: Box) -> None:
        """Letters stand here."""
        self._add(box, LETTERS)

    def _add(self, box: Box, weight: float) -> None:
        if self._count < MOST_BOXES:
            self._taken[self._count] = (*box, weight)
            self._count += 1

    def cost(self, boxes: Sequence[Box]) -> NDArray[np.float64]:
        """What each box would cover, and how far it would stick out of the frame."""
        found = np.asarray(boxes, dtype=np.float64)
        out = (
            np.maximum(-found[:, 0], 0)
            + np.maximum(-found[:, 1], 0)
            + np.maximum(found[:, 2] - self._width, 0)
            + np.maximum(found[:, 3] - self._height, 0)
        )
        cost: NDArray[np.float64] = out * 1000
        taken = self._near(found)
        each = max(CELLS // max(len(taken), 1), 1)
        for first in range(0, len(found), each):
            cost[first : first + each] += _covered(found[first : first + each, None], taken)
        return cost

    def _near(self, found: NDArray[np.float64]) -> NDArray[np.float64]:
        """What is taken within the frame of all these boxes: nothing else is covered by any."""
        taken = self._taken[: self._count]
        left, top = found[:, 0].min(), found[:, 1].min()
        right, bottom = found[:, 2].max(), found[:, 3].max()
        beside = (taken[:, 0] < right) & (taken[:, 2] > left)
        near: NDArray[np.float64] = taken[beside & (taken[:, 1] < bottom) & (taken[:, 3] > top)]
        return near

    def settle(
        self,
        size: tuple[float, float],
        candidates: Iterable[tuple[float, float]],
        dislikes: Sequence[float] | None = None,
    ) -> tuple[float, float]:
        """Left and top of a label of `size`; it is then taken.

        Candidates come best first, or each with how much it is disliked [area of line].
        """
        x, y = self.best(size, candidates, dislikes)
        self.take((x, y, x + size[0], y + size[1]))
        return x, y

    def best_each(
        self, size_and_places: Sequence[tuple[tuple[float, float], Sequence[tuple[float, float]]]]
    ) -> list[tuple[float, float]]:
        """Where each of several labels would stand if it were drawn alone; none is taken.

        All have as many candidates, best first.
        """
        if not size_and_places:
            return []
        boxes = [(x, y, x + w, y + h) for (w, h), places in size_and_places for x, y in places]
        each = len(size_and_places[0][1])
        cost = self.cost(boxes).reshape(-1, each) + PER_RANK * np.arange(each)
        chosen = np.argmin(cost, axis=1)
        return [places[n] for (_, places), n in zip(size_and_places, chosen, strict=True)]

    def best(
        self,
        size: tuple[float, float],
        candidates: Iterable[tuple[float, float]],
        dislikes: Sequence[float] | None = None,
    ) -> tuple[float, float]:
        """Where a label of `size` would stand; nothing is taken by it."""
        width, height = size
        places = list(candidates)
        if dislikes is None:
            x, y = places[0]
            if float(self.cost([(x, y, x + width, y + height)])[0]) == 0.0:
                return places[0]
        boxes = [(x, y, x + width, y + height) for x, y in places]
        extra = PER_RANK * np.arange(len(places)) if dislikes is None else np.asarray(dislikes)
        return places[int(np.argmin(self.cost(boxes) + extra))]
