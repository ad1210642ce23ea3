"""Pictures that are none, too large, too many; links that end."""

import io
from datetime import timedelta

from PIL import Image

from nudge.core.language.errors import CoreError
from nudge.services.errors import Closed, NotFound
from nudge.services.guests import Guests, LinkEnded
from nudge.services.photos import LONG_SIDE, MOST_A_VISIT, Photos, shrunk
from nudge.store.tables import Visit
from tests.temporary import WithDatabase

HERE = "pottery-now"


def encoded(size=(640, 480), fmt="PNG", mode="RGB", **more):
    out = io.BytesIO()
    Image.new(mode, size, 90 if mode in ("L", "P") else (90,) * len(mode)).save(out, fmt, **more)
    return out.getvalue()


class PhotosTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.photos = Photos(self.database, self.clock)

    def test_every_usual_kind_becomes_a_small_jpeg(self):
        for fmt, mode in (
            ("PNG", "RGBA"),
            ("PNG", "P"),
            ("WEBP", "RGB"),
            ("GIF", "L"),
            ("JPEG", "CMYK"),
            ("BMP", "RGB"),
        ):
            with self.subTest(fmt=fmt, mode=mode):
                data, small, size = shrunk(encoded((3000, 1000), fmt, mode))
                with Image.open(io.BytesIO(data)) as image:
                    self.assertEqual((image.format, image.mode, image.size), ("JPEG", "RGB", size))
                self.assertEqual(size, (LONG_SIDE, 533))
                self.assertLess(len(small), len(data))

    def test_broken_cut_short_and_huge_ones_are_refused_with_the_fix(self):
        good = encoded(fmt="JPEG")
        for data in (b"", good[: len(good) // 3], b"<svg/>", b"\x89PNG\r\n\x1a\n" + b"\0" * 40):
            with self.assertRaisesRegex(CoreError, "not a picture"):
                shrunk(data)
        with self.assertRaisesRegex(CoreError, "25 MB"):
            shrunk(b"\0" * 25_000_001)
        bomb = encoded((12_000, 9_000), "PNG", "L")  # 108 million points in a few kilobytes
        self.assertLess(len(bomb), 500_000)
        with self.assertRaisesRegex(CoreError, "picture|smaller"):
            shrunk(bomb)

    def test_a_visit_holds_so_many_and_a_closed_one_takes_none(self):
        data = encoded((40, 30))
        for number in range(MOST_A_VISIT):
            self.photos.add(HERE, f"p{number}", "outdoor", "", data)
        with self.assertRaisesRegex(CoreError, "60 pictures"):
            self.photos.add(HERE, "one-more", "outdoor", "", data)
        self.photos.take_off("p0")
        self.photos.add(HERE, "one-more", "outdoor", "", data)
        self.assertEqual(len(self.photos.of(HERE)), MOST_A_VISIT)
        with self.assertRaises(Closed):
            self.photos.add("clinic-2", "late", "outdoor", "", data)
        with self.assertRaises(NotFound):
            self.photos.add("nowhere", "lost", "outdoor", "", data)

    def test_the_same_picture_sent_twice_is_one_and_a_removed_one_is_gone(self):
        data = encoded()
        first = self.photos.add(HERE, "p", "drain", " Pan ", data)
        self.assertEqual((first.caption, first.width), ("Pan", 640))
        self.photos.add(HERE, "p", "outdoor", "another", encoded((99, 99)))
        self.assertEqual([row.subsystem for row in self.photos.of(HERE)], ["drain"])
        self.photos.take_off("p")
        for small in (True, False):
            with self.assertRaises(NotFound):
                self.photos.bytes_of("p", small)
        for subsystem, caption in (("roof", ""), ("drain", "x" * 201)):
            with self.assertRaises(CoreError):
                self.photos.add(HERE, "q", subsystem, caption, data)


class GuestsTest(WithDatabase):
    def setUp(self):
        super().setUp()
        self.guests = Guests(self.database, self.clock, self.visits)

    def test_a_link_lives_until_its_hour_and_not_a_second_longer(self):
        made = self.guests.invite(HERE, 1)
        self.assertEqual(made.expires_at, self.clock.now + timedelta(hours=1))
        self.clock.now += timedelta(minutes=59, seconds=59)
        self.assertEqual(self.guests.look(made.token)[0].visit.id, HERE)
        self.clock.now += timedelta(seconds=1)
        with self.assertRaises(LinkEnded):
            self.guests.look(made.token)
        self.assertEqual(self.guests.links(HERE), [])

    def test_ended_revoked_and_never_made_look_alike(self):
        made = self.guests.invite(HERE)
        other = self.guests.invite("clinic-now")
        self.guests.revoke(HERE, made.id)
        said = set()
        for token in (made.token, "never", "", "\ud800"):
            with self.assertRaises(LinkEnded) as caught:
                self.guests.notes(token)
            said.add(caught.exception.text("ip"))
        self.assertEqual(len(said), 1)
        self.assertEqual(self.guests.look(other.token)[0].visit.id, "clinic-now")
        with self.assertRaises(NotFound):
            self.guests.revoke(HERE, other.id)  # another visit's link

    def test_a_guest_leaves_notes_on_an_open_visit_only_and_not_without_end(self):
        made = self.guests.invite(HERE)
        for number in range(50):
            self.guests.leave_note(made.token, f"g{number}", "Look at the drier")
        self.guests.leave_note(made.token, "g0", "again")
        with self.assertRaisesRegex(CoreError, "Ring them up"):
            self.guests.leave_note(made.token, "g99", "more")
        for text in ("", " ", "x" * 4001):
            with self.assertRaises(CoreError):
                self.guests.leave_note(made.token, "g98", text)
        self.visits.close(HERE)
        with self.assertRaises(Closed):
            self.guests.leave_note(made.token, "g97", "too late")

    def test_two_links_are_never_alike_and_none_is_stored(self):
        tokens = {self.guests.invite(HERE).token for _ in range(20)}
        self.assertEqual(len(tokens), 20)
        self.assertTrue(all(len(token) >= 32 for token in tokens))
        with self.database.reading() as session:
            self.assertIsNotNone(session.get(Visit, HERE))
        stored = self.database.path.read_bytes()
        for token in tokens:
            self.assertNotIn(token.encode(), stored)
