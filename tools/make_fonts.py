"""The small fonts of the papers, cut from the whole ones. `python -m tools.make_fonts`."""

from fontTools import subset

from nudge.reports.letters import FONTS, SMALL


def main() -> None:
    for name in ("text", "text-bold"):
        options = subset.Options()
        options.layout_features, options.name_IDs = ["*"], ["*"]
        options.hinting, options.drop_tables = False, ["FFTM"]
        font = subset.load_font(str(FONTS / f"{name}.ttf"), options)
        cutter = subset.Subsetter(options)
        cutter.populate(unicodes=[u for first, last, _ in SMALL for u in range(first, last + 1)])
        cutter.subset(font)
        subset.save_font(font, str(FONTS / f"{name}-small.ttf"), options)


if __name__ == "__main__":
    main()
