"""The document of the API, and applications that share their routes."""

import tempfile
import unittest
from pathlib import Path

from fastapi.routing import APIRoute
from starlette.testclient import TestClient

from nudge.api.errors import REFUSALS
from nudge.main import ROUTES, create_app
from nudge.services.workshop import Workshop
from nudge.store.database import Database
from tests.temporary import HandClock

ROUTED = [route for one in ROUTES for route in one.router.routes if isinstance(route, APIRoute)]


class DocumentTest(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.document = create_app(None).openapi()

    def operations(self):
        for path, item in self.document["paths"].items():
            for method, operation in item.items():
                yield path, method, operation

    def test_every_route_is_in_it_by_its_path_and_method(self):
        said = {(path, method) for path, method, _ in self.operations()}
        there = {
            (route.path, method.lower())
            for route in ROUTED
            if route.include_in_schema
            for method in route.methods
        }
        self.assertEqual(said, there)

    def test_every_route_says_every_refusal_by_name_and_no_other(self):
        for path, method, operation in self.operations():
            with self.subTest(path, method=method):
                refused = {s: a for s, a in operation["responses"].items() if s[0] in "45"}
                self.assertEqual(set(refused), {str(status) for status in REFUSALS})
                for status, answer in refused.items():
                    self.assertEqual(answer, {"$ref": f"#/components/responses/Refused{status}"})

    def test_each_refusal_stands_in_it_once_with_its_words_and_one_shape(self):
        for status, why in REFUSALS.items():
            answer = self.document["components"]["responses"][f"Refused{status}"]
            self.assertEqual(answer["description"], why)
            shape = answer["content"]["application/json"]["schema"]["$ref"]
            self.assertEqual(shape, "#/components/schemas/ErrorsOut")
        problem = self.document["components"]["schemas"]["ErrorOut"]["properties"]
        self.assertLessEqual({"what", "message", "nearest", "start", "end"}, problem.keys())

    def test_everything_it_points_at_is_there(self):
        schemas = self.document["components"]["schemas"]

        def pointed(of):
            if isinstance(of, dict):
                if isinstance(of.get("$ref"), str):
                    yield of["$ref"]
                for value in of.values():
                    yield from pointed(value)
            elif isinstance(of, list):
                for value in of:
                    yield from pointed(value)

        for ref in set(pointed(self.document)):
            _, _, kind, name = ref.split("/")
            if kind == "schemas":
                self.assertIn(name, schemas)
        self.assertNotIn("HTTPValidationError", schemas)

    def test_no_two_routes_have_one_name(self):
        names = [operation["operationId"] for _, _, operation in self.operations()]
        self.assertEqual(len(names), len(set(names)))


class SharedRoutesTest(unittest.TestCase):
    """Routes are built once a process: each application answers from its own workshop."""

    def client(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        database = Database(Path(folder.name))
        self.addCleanup(database.close)
        return TestClient(
            create_app(Workshop(database, HandClock())), raise_server_exceptions=False
        )

    def test_two_of_them_keep_apart_what_they_are_told(self):
        one, other = self.client(), self.client()
        for client, name in ((one, "Harbour lamp house"), (other, "Rope works")):
            made = client.post("/api/sites", json={"id": "s", "name": name})
            self.assertEqual(made.status_code, 201, made.text)
        for client, name in ((one, "Harbour lamp house"), (other, "Rope works")):
            self.assertEqual([site["name"] for site in client.get("/api/sites").json()], [name])

    def test_the_one_made_later_does_not_change_what_the_first_refuses(self):
        one = self.client()
        before = one.get("/api/visits/none").json()
        self.client()
        self.assertEqual(one.get("/api/visits/none").json(), before)
        self.assertEqual(one.put("/api/today").status_code, 405)


if __name__ == "__main__":
    unittest.main()
