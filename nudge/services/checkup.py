"""Whether a data folder is whole: the file, what hangs together, kept evidence, pictures."""

from collections.abc import Iterator
from pathlib import Path

from nudge.core.language.errors import CoreError
from nudge.core.visit.record.kept import read_answer, read_kept
from nudge.store.copies import schema_of, unsound
from nudge.store.database import FILE, SCHEMA
from nudge.store.rows_raw import kept_verdicts, pictures

_JPEG = b"\xff\xd8"
MOST_SAID = 20


def findings(folder: Path) -> list[str]:
    """What is wrong in a data folder, in words; nothing where all is well.

    Nothing is changed, and a Nudge may be running on it. Raises: BadCopy, for what is no Nudge.
    """
    path = folder / FILE
    if not path.is_file():
        return [f"There is no {FILE} in {folder}. Is NUDGE_DATA the right folder?"]
    schema = schema_of(path)
    found = unsound(path)
    if schema != SCHEMA:
        found.append(
            f"It is in the form {schema}; this Nudge keeps {SCHEMA}. Start it once to bring it up "
            "to date; a copy is made first."
        )
        return found
    if not found:
        found += [*_unread(path), *_lost_pictures(path)]
    more = len(found) - MOST_SAID
    return found if more <= 0 else [*found[:MOST_SAID], f"and {more} more."]


def _unread(path: Path) -> Iterator[str]:
    for number, kept, answer, request in kept_verdicts(path):
        try:
            if kept is not None:
                read_kept(kept)
            else:
                read_answer(answer, request)
        except (CoreError, KeyError, TypeError, AttributeError) as unread:
            yield f"Verdict {number}: what it keeps cannot be read ({unread})."


def _lost_pictures(path: Path) -> Iterator[str]:
    for picture_id, picture, small in pictures(path):
        if not (picture.startswith(_JPEG) and small.startswith(_JPEG)):
            yield f"Picture “{picture_id}”: its bytes are gone or damaged."
