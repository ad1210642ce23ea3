"""What Nudge is made of: every package that ships, its licence in full, and a bill of materials.

`python -m tools.licences FOLDER` writes THIRD-PARTY.txt and sbom.json (CycloneDX 1.5) there, from
the locks and from what is installed by them. Part of the build of the screens.
"""

import json
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.metadata import Distribution, PackageNotFoundError, distribution
from pathlib import Path
from typing import Any

from nudge import __version__

ROOT = Path(__file__).parents[1]
LICENCE_FILE = re.compile(r"(LICEN[CS]E|COPYING|NOTICE|OFL)[^/]*$", re.IGNORECASE)
FONTS = ROOT / "nudge" / "reports" / "fonts"


@dataclass(frozen=True, slots=True)
class Part:
    """A package that ships: where it is from, its licence by name and in full."""

    kind: str
    name: str
    version: str
    licence: str
    texts: tuple[str, ...]

    @property
    def purl(self) -> str:
        return f"pkg:{self.kind}/{self.name.replace('@', '%40')}@{self.version}"


def python_parts(lock: Path) -> Iterator[Part]:
    """Every package of a lock that is installed here; those for other systems are left out."""
    for name, version in re.findall(r"^([\w.-]+)==([\w.]+)", lock.read_text("utf-8"), re.MULTILINE):
        try:
            found = distribution(name)
        except PackageNotFoundError:
            continue
        yield Part("pypi", name, version, _licence_of(found), tuple(_texts_of(found)))


def script_parts(web: Path) -> Iterator[Part]:
    """Every package of the front end that goes into what is served."""
    packages: dict[str, Any] = json.loads((web / "package-lock.json").read_text("utf-8"))[
        "packages"
    ]
    for path, about in sorted(packages.items()):
        folder = web / path
        if not path or about.get("dev") or about.get("devOptional") or not folder.is_dir():
            continue
        files = sorted(f for f in folder.iterdir() if LICENCE_FILE.search(f.name) and f.is_file())
        texts = tuple(f.read_text("utf-8", "replace") for f in files)
        name = path.rpartition("node_modules/")[2]
        licence = about.get("license") or _package_licence(folder)
        yield Part("npm", name, about["version"], licence, texts)


def bill_of(parts: list[Part]) -> dict[str, Any]:
    """A software bill of materials in CycloneDX's open form."""
    return {
        "bomFormat": "CycloneDX",
        "specVersion": "1.5",
        "version": 1,
        "metadata": {"component": {"type": "application", "name": "nudge", "version": __version__}},
        "components": [
            {
                "type": "library",
                "name": part.name,
                "version": part.version,
                "purl": part.purl,
                "licenses": [{"license": {"name": part.licence}}],
            }
            for part in parts
        ],
    }


def paper_of(parts: list[Part]) -> str:
    """Every package with its licence; a text that several share is printed with the first."""
    seen: dict[str, str] = {}
    lines = ["Nudge is made with these. Each keeps its own licence.", ""]
    for part in parts:
        lines += [f"== {part.name} {part.version}", f"Licence: {part.licence}"]
        for text in part.texts:
            known = seen.setdefault(" ".join(text.split()), part.name)
            lines += ["", text.strip() if known == part.name else f"As for {known}."]
        lines.append("")
    for font in sorted(FONTS.glob("LICENSE-*.txt")):
        lines += [f"== The letters of papers: {font.stem}", "", font.read_text("utf-8").strip(), ""]
    return "\n".join(lines)


def _licence_of(found: Distribution) -> str:
    about: Any = found.metadata
    named = about.get("License-Expression") or ""
    classed = [
        line.rpartition(" :: ")[2]
        for line in about.get_all("Classifier") or []
        if line.startswith("License ::")
    ]
    short = (about.get("License") or "").strip()
    return named or ", ".join(classed) or (short if "\n" not in short else "") or "see its text"


def _texts_of(found: Distribution) -> Iterator[str]:
    for file in found.files or []:
        if LICENCE_FILE.search(str(file)) and ".dist-info" in str(file):
            yield Path(str(found.locate_file(file))).read_text("utf-8", "replace")


def _package_licence(folder: Path) -> str:
    about = json.loads((folder / "package.json").read_text("utf-8"))
    return str(about.get("license") or "see its text")


def main(folder: str) -> None:
    parts = [*python_parts(ROOT / "requirements.lock"), *script_parts(ROOT / "web")]
    target = Path(folder)
    (target / "THIRD-PARTY.txt").write_text(paper_of(parts), "utf-8")
    (target / "sbom.json").write_text(json.dumps(bill_of(parts), indent=1), "utf-8")
    print(f"{len(parts)} packages in {target}/THIRD-PARTY.txt and sbom.json")


if __name__ == "__main__":
    main(*sys.argv[1:])
