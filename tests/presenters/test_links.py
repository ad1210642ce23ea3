"""A link as somebody else can open it, and its QR code."""

import re
import unittest
from datetime import UTC, datetime
from unittest.mock import patch

from nudge.presenters import links
from nudge.presenters.links import new_link_out, qr_of
from nudge.services.guests import NewLink

MADE = NewLink("one", "tok-en", datetime(2026, 7, 14, tzinfo=UTC))


class LinkTest(unittest.TestCase):
    def test_the_address_is_one_that_others_reach(self):
        with patch.object(links, "own_address", return_value="192.168.7.20"):
            for host, reachable, address in (
                ("van.local", True, "http://van.local:8000/look/tok-en"),
                ("127.0.0.1", True, "http://192.168.7.20:8000/look/tok-en"),
                ("localhost", True, "http://192.168.7.20:8000/look/tok-en"),
                ("fe80::1", True, "http://[fe80::1]:8000/look/tok-en"),
                ("127.0.0.1", False, ""),
            ):
                with self.subTest(host=host, reachable=reachable):
                    out = new_link_out(MADE, host, 8000, "http", reachable)
                    self.assertEqual(out.address, address)
                    self.assertEqual(out.qr is None, address == "")
                    self.assertEqual(out.warning == "", address != "")
                    self.assertEqual(out.path, "/look/tok-en")

    def test_without_a_network_it_says_so_and_draws_no_code(self):
        with patch.object(links, "own_address", return_value=""):
            out = new_link_out(MADE, "localhost", 8000, "http", True)
        self.assertIsNone(out.qr)
        self.assertIn("no network", out.warning)

    def test_the_code_is_square_with_a_quiet_border_and_three_finders(self):
        code = qr_of("http://192.168.7.20:8000/look/" + "a" * 32)
        dark = {(int(x), int(y)) for x, y in re.findall(r"M(\d+) (\d+)h1", code.path)}
        self.assertEqual((code.size - 4 - 17) % 4, 0)  # 21, 25, 29 … modules
        for x, y in dark:
            self.assertTrue(2 <= x < code.size - 2 and 2 <= y < code.size - 2)
        # each finder is a 7 by 7 ring, dark at its corners and its middle, light inside the ring
        last = code.size - 2 - 7
        for left, top in ((2, 2), (last, 2), (2, last)):
            for at in ((0, 0), (6, 0), (0, 6), (6, 6), (3, 3)):
                self.assertIn((left + at[0], top + at[1]), dark)
            self.assertNotIn((left + 1, top + 1), dark)

    def test_asking_for_ones_own_address_never_fails(self):
        with patch("socket.socket.connect", side_effect=OSError("no network")):
            self.assertEqual(links.own_address(), "")


if __name__ == "__main__":
    unittest.main()
