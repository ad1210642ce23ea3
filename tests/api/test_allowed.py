"""What a path takes, as the document has it, is told to whoever asked otherwise."""

import re

from tests.temporary import WithClient


class AllowedTest(WithClient):
    def test_a_method_no_path_takes_is_answered_by_those_it_does(self):
        document = self.http.get("/openapi.json").json()
        asked = 0
        for path, operations in document["paths"].items():
            if "path:path" in path:
                continue
            takes = sorted(method.upper() for method in operations)
            wrong = next(m for m in ("DELETE", "PUT", "PATCH") if m not in takes)
            with self.subTest(path, asked=wrong):
                answer = self.http.request(wrong, re.sub(r"{\w+}", "x", path))
                self.assertEqual(answer.status_code, 405)
                self.assertEqual(answer.headers["allow"], ", ".join(takes))
                self.assertIn(f"takes {', '.join(takes)}.", answer.json()["errors"][0]["message"])
                asked += 1
        self.assertGreater(asked, 100)

    def test_a_path_that_is_not_there_is_said_to_be_none(self):
        for path in ("/api/nothing", "/api/visits/x/nothing"):
            answer = self.http.get(path)
            self.assertEqual(answer.status_code, 404, path)
            self.assertTrue(answer.json()["errors"][0]["message"])
