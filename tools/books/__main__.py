"""Write the rule tables into docs/method.md and docs/nomenclature.md. Run by `make books`.

Everything between `<!-- rules: NAME -->` and `<!-- end -->` is written from the code's own
tables; the prose around them is written by hand.
"""

import re
from importlib import import_module
from pathlib import Path

from tools.books.page import PAGES

CHAPTERS = (
    "names", "physics", "targets", "judging", "deciding", "visits", "testing", "opening", "plant",
    "zones",
)  # fmt: skip
DOCS = Path(__file__).parents[2] / "docs"


def main() -> None:
    for chapter in CHAPTERS:
        import_module(f"tools.books.{chapter}")
    ready = {name: write() for name, write in PAGES.items()}
    for name in ("method.md", "nomenclature.md"):
        path = DOCS / name
        written = re.sub(
            r"(<!-- rules: (\w+) -->\n).*?(<!-- end -->)",
            lambda found: f"{found[1]}{ready[found[2]]}\n{found[3]}",
            path.read_text("utf-8"),
            flags=re.DOTALL,
        )
        path.write_text(written)


if __name__ == "__main__":
    main()
