"""The arrows of the house: who may import whom. A wrong arrow fails here, not in review."""

import ast
import re
import unittest
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]

# The core's floors, the ground first: each stands on those before it, so every arrow runs down.
FLOORS = (
    "language",
    "physics",
    "multizone",
    "checks",
    "behaviours",
    "targets",
    "settling",
    "expectations",
    "gaugeless",
    "judgement",
    "charging",
    "opening",
    "tests",
    "drift",
    "visit",
    "calculators",
)
APART = {"visit": {"judgement", "charging", "drift"}, "drift": {"charging"}}
"""Floors that a later one has no business with."""

# Rooms inside the two lowest floors, and what each may import there.
INSIDE: dict[str, tuple[str, ...]] = {
    "language.units": (),
    "language.said": ("language.units",),
    "language.errors": ("language.units", "language.said"),
    "language.working": ("language.units", "language.said"),
    "language.vocabulary": (
        "language.units",
        "language.said",
        "language.errors",
        "language.working",
    ),
    "language.callout": ("language.units", "language.errors", "language.vocabulary"),
    "physics.refrigerant": (),
    "physics.air": (),
    "physics.chart": (),
    "physics.circuit": ("physics.refrigerant", "physics.air", "physics.chart"),
    "physics.electrical": (),
    "physics.heating": ("physics.air", "physics.circuit"),
    "physics.cold_room": ("physics.refrigerant", "physics.circuit"),
    "physics.vehicle": ("physics.air",),
    "physics.zones": ("physics.circuit",),
    "physics.tightness": ("physics.refrigerant", "physics.circuit"),
}


def _core() -> dict[str, tuple[str, ...]]:
    found = {}
    for name, may in INSIDE.items():
        below = ("language",) if name.startswith("physics") else ()
        found[f"nudge.core.{name}"] = tuple(f"nudge.core.{one}" for one in (*below, *may))
    for number, floor in enumerate(FLOORS):
        below = tuple(one for one in FLOORS[:number] if one not in APART.get(floor, set()))
        found[f"nudge.core.{floor}"] = tuple(f"nudge.core.{one}" for one in below)
    return found


# Layer: what it may import of Nudge, besides itself. The order is the reading order.
ALLOWED: dict[str, tuple[str, ...]] = _core() | {
    "nudge.plant": ("nudge.core.language", "nudge.core.physics"),
    "nudge.contract": ("nudge.core",),
    "nudge.store": (),
    "nudge.instruments": ("nudge.core",),
    "nudge.services": (
        "nudge.core", "nudge.plant", "nudge.contract", "nudge.store", "nudge.instruments",
        "nudge.__version__",
    ),
    "nudge.presenters": (
        "nudge.core", "nudge.contract", "nudge.services", "nudge.instruments",
    ),
    "nudge.reports": ("nudge.core", "nudge.contract", "nudge.presenters"),
    "nudge.api": (
        "nudge.core", "nudge.contract", "nudge.services", "nudge.presenters", "nudge.instruments",
        "nudge.reports", "nudge.__version__",
    ),
    "nudge.demo": ("nudge.core", "nudge.plant", "nudge.services", "nudge.store"),
    "nudge.settings": (),
    "nudge.main": ("nudge.api", "nudge.presenters", "nudge.services", "nudge.__version__"),
    "nudge.rehearsal": ("nudge.main", "nudge.services", "nudge.store"),
    "nudge.certificate": (),
    "nudge.logs": (),
    "nudge.patience": (),
    "nudge.memory": (),
    "nudge.upkeep": ("nudge.services", "nudge.store"),
    "nudge.cli": (
        "nudge.core", "nudge.contract", "nudge.services", "nudge.store", "nudge.settings",
        "nudge.main", "nudge.demo", "nudge.upkeep", "nudge.certificate",
        "nudge.presenters", "nudge.rehearsal", "nudge.logs", "nudge.patience", "nudge.memory",
    ),
}  # fmt: skip


def _imports(path: Path) -> Iterator[str]:
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = node.module or ""
            if base in ("nudge", "nudge.core", "nudge.store.repositories"):
                yield from (f"{base}.{alias.name}" for alias in node.names)
            else:
                yield base


def _modules() -> Iterator[tuple[str, Path]]:
    for path in sorted((ROOT / "nudge").rglob("*.py")):
        name = ".".join(path.relative_to(ROOT).with_suffix("").parts)
        yield name.removesuffix(".__init__"), path


def _within(name: str, layer: str) -> bool:
    return name == layer or name.startswith(layer + ".")


class ArrowsTest(unittest.TestCase):
    def test_every_import_follows_an_arrow(self):
        seen = 0
        for module, path in _modules():
            layer = next((name for name in ALLOWED if _within(module, name)), None)
            for target in _imports(path):
                if not target.startswith("nudge") or layer is None:
                    continue
                seen += 1
                allowed = any(_within(target, name) for name in (layer, *ALLOWED[layer]))
                self.assertTrue(allowed, f"{module} must not import {target}")
        self.assertGreater(seen, 150)

    def test_every_module_has_a_layer(self):
        roots = {"nudge", "nudge.core", "nudge.__main__"}
        for module, _ in _modules():
            if module not in roots and not any(_within(module, name) for name in ALLOWED):
                self.fail(f"{module} belongs to no layer: draw its arrow in ALLOWED")

    def test_the_core_reads_and_writes_nothing_and_knows_no_clock(self):
        banned = {
            "os",
            "time",
            "datetime",
            "random",
            "socket",
            "sqlite3",
            "pydantic",
            "fastapi",
            "sqlalchemy",
            "pathlib",
            "uuid",
            "CoolProp",
        }
        for module, path in _modules():
            if module.startswith(("nudge.core", "nudge.plant")):
                used = {name.split(".")[0] for name in _imports(path)}
                self.assertEqual(used & banned, set(), module)

    def test_only_the_kinds_of_plant_ask_what_kind_it_is(self):
        # Elsewhere a property of the row is asked: a new kind is a row and a folder of tables.
        asks = re.compile(r"application\s*(is\b|==|!=|in\b)|\bApplication\.[A-Z]")
        own = ("nudge.core.behaviours", "nudge.core.physics.circuit.equipment", "nudge.plant")
        for module, path in _modules():
            if not module.startswith(own):
                self.assertNotRegex(path.read_text("utf-8"), asks, module)

    def test_a_route_file_holds_routes_alone(self):
        for module, path in _modules():
            if module.startswith("nudge.api.routes."):
                text = path.read_text("utf-8")
                self.assertNotIn("from nudge.api.routes", text, module)
                self.assertNotRegex(text, r"(?m)^class ", f"{module}: shapes are in presenters")

    def test_no_public_class_name_stands_for_two_things(self):
        found: dict[str, list[str]] = {}
        for module, path in _modules():
            for node in ast.parse(path.read_text("utf-8")).body:
                if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                    found.setdefault(node.name, []).append(module)
        twice = {name: where for name, where in found.items() if len(where) > 1}
        self.assertEqual(twice, {})

    def test_only_the_store_speaks_sql(self):
        speaks = re.compile(r"\b(select|delete|update|insert|text)\(|\.query\(|\.execute\(")
        for module, path in _modules():
            text = path.read_text("utf-8")
            if "sqlalchemy" in text and not module.startswith("nudge.store"):
                found = [line for line in text.splitlines() if speaks.search(line)]
                self.assertEqual([one for one in found if ".text(" not in one], [], module)

    def test_features_of_the_front_end_do_not_import_each_other(self):
        features = ROOT / "web/src/features"
        for path in features.rglob("*.ts*"):
            own = path.relative_to(features).parts[0]
            for other in (p.name for p in features.iterdir() if p.name != own):
                self.assertNotIn(f"../{other}/", path.read_text("utf-8"), path)

    def test_no_module_grows_past_a_sitting(self):
        tables = ("nudge.core.checks.table", "nudge.core.settling.gates")
        for module, path in _modules():
            if "migrations" not in module and module not in tables:
                lines = len(path.read_text("utf-8").splitlines())
                self.assertLessEqual(lines, 350, module)

    def test_no_function_grows_past_a_screen(self):
        for module, path in _modules():
            if "migrations" in module:
                continue
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                    lines = (node.end_lineno or 0) - node.lineno + 1
                    self.assertLessEqual(lines, 60, f"{module}.{node.name}")

    def test_the_formatter_is_kept_out_of_tables_only(self):
        out = sum(path.read_text("utf-8").count("# fmt: " + "skip") for _, path in _modules())
        self.assertLessEqual(out, 60)
