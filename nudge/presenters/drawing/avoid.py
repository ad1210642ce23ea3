"""Labels that keep out of each other's way and off the lines.

Everything drawn becomes small boxes. A label has candidates, best first; it takes the one that
covers least, and then stands in the way of those after it.

Plain numbers, because there are few: of some sixty boxes a handful is ever near one label, and to
find those costs less than to hand them all to numpy.
"""

from collections.abc import Iterable, Sequence
from itertools import pairwise
from math import ceil, hypot, inf

import numpy as np
from numpy.typing import NDArray

Box = tuple[float, float, float, float]
"""Left, top, right, bottom."""
Taken = tuple[float, float, float, float, float]
"""A box, and how bad it is to cover a unit of it."""
STEP = 8.0
"""How closely a slanted line is followed by boxes."""
LETTERS, LINES = 3.0, 1.0
"""How bad it is to cover a unit of area of other letters, and of a line's boxes."""
PER_RANK = 6.0
"""What a candidate further down its list costs: as much as this area of line."""
OUTSIDE = 1000.0
"""What each unit costs by which a label sticks out of its frame."""


def _covered(box: Box, near: Sequence[Taken], enough: float = inf) -> float:
    """What a box covers of those taken, by their weights; no further than is `enough`."""
    left, top, right, bottom = box
    total = 0.0
    for x0, y0, x1, y1, weight in near:
        if x0 < right and x1 > left and y0 < bottom and y1 > top:
            wide = (x1 if x1 < right else right) - (x0 if x0 > left else left)
            high = (y1 if y1 < bottom else bottom) - (y0 if y0 > top else top)
            total += wide * high * weight
            if total >= enough:
                break
    return total


def _shared(
    starts: NDArray[np.float64], size: float, low: NDArray[np.float64], high: NDArray[np.float64]
) -> NDArray[np.float64]:
    """How much of each stretch of `size` lies within each of those from low to high."""
    ends = np.minimum(starts[:, None] + size, high)
    shared: NDArray[np.float64] = np.maximum(ends - np.maximum(starts[:, None], low), 0)
    return shared


class LabelRoom:
    """What is taken so far in a frame of `width` by `height`."""

    def __init__(self, width: float, height: float) -> None:
        self._width, self._height = width, height
        self._taken: list[Taken] = []

    def draw(self, points: Sequence[tuple[float, float]], thick: float = 4.0) -> None:
        """A line is in the way."""
        half = thick / 2
        for (x0, y0), (x1, y1) in pairwise(points):
            is_straight = x0 == x1 or y0 == y1
            count = 1 if is_straight else max(1, ceil(hypot(x1 - x0, y1 - y0) / STEP))
            for n in range(count):
                xs = sorted((x0 + (x1 - x0) * n / count, x0 + (x1 - x0) * (n + 1) / count))
                ys = sorted((y0 + (y1 - y0) * n / count, y0 + (y1 - y0) * (n + 1) / count))
                self._taken.append((xs[0] - half, ys[0] - half, xs[1] + half, ys[1] + half, LINES))

    def take(self, box: Box) -> None:
        """Letters stand here."""
        self._taken.append((*box, LETTERS))

    def is_free(self, box: Box) -> bool:
        """Whether a box covers nothing, within the frame."""
        return self._out(box) == 0.0 and _covered(box, self._taken) == 0.0

    def _out(self, box: Box) -> float:
        """How far a box sticks out of the frame."""
        left, top, right, bottom = box
        if left >= 0 and top >= 0 and right <= self._width and bottom <= self._height:
            return 0.0
        across = max(-left, 0.0) + max(right - self._width, 0.0)
        return across + max(-top, 0.0) + max(bottom - self._height, 0.0)

    def _within(self, left: float, top: float, right: float, bottom: float) -> list[Taken]:
        """What is taken within such a frame: nothing else is covered by a box in it."""
        return [
            one
            for one in self._taken
            if one[0] < right and one[2] > left and one[1] < bottom and one[3] > top
        ]

    def settle(
        self, size: tuple[float, float], candidates: Iterable[tuple[float, float]]
    ) -> tuple[float, float]:
        """Left and top of a label of `size`; it is then taken. Candidates come best first."""
        x, y = self.best(size, candidates)
        self.take((x, y, x + size[0], y + size[1]))
        return x, y

    def best(
        self, size: tuple[float, float], candidates: Iterable[tuple[float, float]]
    ) -> tuple[float, float]:
        """Where a label of `size` would stand; nothing is taken by it."""
        width, height = size
        places = list(candidates)
        lefts, tops = [x for x, _ in places], [y for _, y in places]
        near = self._within(min(lefts), min(tops), max(lefts) + width, max(tops) + height)
        found, least, row, beside = places[0], inf, None, near
        for rank, (x, y) in enumerate(places):
            if rank * PER_RANK >= least:
                break
            if y != row:  # candidates come row by row
                row, beside = y, [one for one in near if one[1] < y + height and one[3] > y]
            box = (x, y, x + width, y + height)
            cost = self._out(box) * OUTSIDE + rank * PER_RANK
            if cost < least and (cost := cost + _covered(box, beside, least - cost)) < least:
                found, least = (x, y), cost
        return found

    def settle_on_grid(
        self,
        size: tuple[float, float],
        lefts: Sequence[float],
        tops: Sequence[float],
        dislikes: NDArray[np.float64],
    ) -> tuple[float, float]:
        """Left and top of a label of `size`, of every left with every top; it is then taken.

        `dislikes` [area of line] is a row a left. What a box covers is how far it reaches over
        another across, times how far down: each is reckoned once a left and once a top.
        """
        (wide, high), xs, ys = size, np.asarray(lefts), np.asarray(tops)
        taken = np.empty((0, 5))
        if near := self._within(min(lefts), min(tops), max(lefts) + wide, max(tops) + high):
            taken = np.asarray(near)
        across = _shared(xs, wide, taken[:, 0], taken[:, 2]) * taken[:, 4]
        down = _shared(ys, high, taken[:, 1], taken[:, 3])
        out_x = np.maximum(-xs, 0) + np.maximum(xs + wide - self._width, 0)
        out_y = np.maximum(-ys, 0) + np.maximum(ys + high - self._height, 0)
        cost = across @ down.T + OUTSIDE * (out_x[:, None] + out_y) + dislikes
        row, column = divmod(int(np.argmin(cost)), len(ys))
        x, y = lefts[row], tops[column]
        self.take((x, y, x + wide, y + high))
        return x, y
