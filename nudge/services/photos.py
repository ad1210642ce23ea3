"""Pictures of a visit: taken in, turned upright, made smaller, and stripped of what the camera
wrote about place, time and owner.
"""

import io
import warnings
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor

from nudge.core.checks.forms import SUBSYSTEMS
from nudge.core.language.errors import CoreError
from nudge.services.clock import Clock
from nudge.services.errors import Closed, NotFound
from nudge.store.database import Database
from nudge.store.refusals import SameIdOtherContent
from nudge.store.repositories import visits as visits_repository
from nudge.store.repositories import whole_visit
from nudge.store.visit_tables import Photo

MOST_BYTES = 25_000_000
MOST_PIXELS = 80_000_000
LONG_SIDE, PAPER_SIDE, SMALL_SIDE = 1600, 1000, 480
QUALITY, SMALL_QUALITY = 80, 72
MOST_A_VISIT = 60
LONGEST_CAPTION = 200


_DECODER = ThreadPoolExecutor(1, "pictures")
"""A large picture takes 300 MB while it is decoded: one at a time, and always in the same thread,
for what a thread frees only that thread takes again."""


class Photos:
    """The use cases of pictures."""

    def __init__(self, database: Database, clock: Clock) -> None:
        self._database, self._clock = database, clock

    def add(self, visit_id: str, photo_id: str, subsystem: str, caption: str, data: bytes) -> Photo:
        """Take a picture in; the same id again is the same picture.

        Raises: CoreError, for a file that is no picture, too large a one, or one too many.
        """
        if subsystem not in SUBSYSTEMS:
            raise CoreError("subsystem", f"Pictures belong to one of: {', '.join(SUBSYSTEMS)}.")
        if len(caption) > LONGEST_CAPTION:
            raise CoreError("caption", f"Keep a caption under {LONGEST_CAPTION} letters.")
        with self._database.reading() as session:
            kept = whole_visit.photo(session, photo_id)
            if kept is not None and kept.visit_id != visit_id:
                raise SameIdOtherContent(photo_id)
            if kept is None:
                _open_visit(visits_repository.head(session, visit_id), visit_id)
            if kept is None and len(whole_visit.photos(session, visit_id)) >= MOST_A_VISIT:
                raise CoreError("picture", f"A visit holds {MOST_A_VISIT} pictures. Take one off.")
        picture, small, size = shrunk(data)
        row = Photo(
            id=photo_id,
            visit_id=visit_id,
            subsystem=subsystem,
            caption=caption.strip(),
            width=size[0],
            height=size[1],
            picture=picture,
            small=small,
            taken_at=self._clock(),
            removed_at=None,
        )
        with self._database.writing() as session:
            kept = whole_visit.photo(session, photo_id)
            if kept is not None:
                return kept
            _open_visit(visits_repository.head(session, visit_id), visit_id)
            session.add(row)
        return row

    def of(self, visit_id: str) -> Sequence[Photo]:
        with self._database.reading() as session:
            return whole_visit.photos(session, visit_id)

    def bytes_of(self, photo_id: str, small: bool) -> bytes:
        """Raises: NotFound, also for one that was taken off."""
        with self._database.reading() as session:
            row = whole_visit.photo(session, photo_id)
            if row is None or row.removed_at is not None:
                raise NotFound("picture", photo_id)
            return row.small if small else row.picture

    def for_paper(self, photo_id: str) -> bytes:
        """A picture at the size it is printed in. Raises: NotFound."""
        from PIL import Image

        with Image.open(io.BytesIO(self.bytes_of(photo_id, small=False))) as image:
            image.thumbnail((PAPER_SIDE, PAPER_SIDE))
            return _jpeg(image, SMALL_QUALITY)

    def take_off(self, photo_id: str) -> None:
        """Take a picture off its visit: its bytes go, that there was one stays.

        Raises: NotFound, Closed.
        """
        with self._database.writing() as session:
            row = whole_visit.photo(session, photo_id)
            if row is None:
                raise NotFound("picture", photo_id)
            _open_visit(visits_repository.head(session, row.visit_id), row.visit_id)
            row.removed_at = row.removed_at or self._clock()
            row.picture = row.small = b""


def shrunk(data: bytes) -> tuple[bytes, bytes, tuple[int, int]]:
    """A picture as JPEG, a small one beside it, and its size; nothing but pixels is kept.

    Raises: CoreError, for what is no picture, is broken, or is too large.
    """
    return _DECODER.submit(_shrunk, data).result()


def _shrunk(data: bytes) -> tuple[bytes, bytes, tuple[int, int]]:
    from PIL import Image, ImageOps, UnidentifiedImageError  # slow to import, and seldom needed

    if len(data) > MOST_BYTES:
        raise CoreError(
            "picture",
            f"That file is over {MOST_BYTES // 1_000_000} MB. Take it again at a smaller size.",
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            opened = Image.open(io.BytesIO(data))
            if opened.width * opened.height > MOST_PIXELS:
                raise CoreError(
                    "picture",
                    f"{opened.width} × {opened.height} is over 80 million "
                    "points. Take it again at a smaller size.",
                )
            opened.draft("RGB", (LONG_SIDE, LONG_SIDE))
            if opened.mode in ("RGBA", "LA", "PA"):  # made smaller well, it would be copied whole
                opened.thumbnail((2 * LONG_SIDE, 2 * LONG_SIDE), Image.Resampling.NEAREST)
            opened.thumbnail((LONG_SIDE, LONG_SIDE))
            upright = ImageOps.exif_transpose(opened).convert("RGB")
    except (
        UnidentifiedImageError,
        Image.DecompressionBombError,
        Image.DecompressionBombWarning,
        OSError,
        SyntaxError,
        ValueError,
    ) as broken:
        raise CoreError(
            "picture",
            "That is not a picture Nudge can read. It takes JPEG, PNG, WebP and the like.",
        ) from broken
    size = upright.size
    picture = _jpeg(upright, QUALITY)
    upright.thumbnail((SMALL_SIDE, SMALL_SIDE))
    return picture, _jpeg(upright, SMALL_QUALITY), size


def _jpeg(image: "object", quality: int) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=quality, optimize=True)  # type: ignore[attr-defined]
    return out.getvalue()


def _open_visit(row: object, visit_id: str) -> None:
    if row is None:
        raise NotFound("visit", visit_id)
    if getattr(row, "closed_at", None) is not None:
        raise Closed
