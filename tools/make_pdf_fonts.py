"""Make the fonts of the PDF sheets from the web fonts in frontend/node_modules: unpacked, and with a micro sign.

The web fonts have no µ; it is drawn here as their u with the left stem brought below the line.
Run from the project's root after `make setup`; the results are committed.
"""

from pathlib import Path

from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

SOURCE = Path("frontend/node_modules/@fontsource")
TARGET = Path("src/valleywind/formats/fonts")
FONTS = {
    "text-regular": "atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff",
    "text-bold": "atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff",
    "digits-bold": "atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-700-normal.woff",
}
MICRO = 0xB5


def add_micro(font: TTFont) -> None:
    """The u, and a rectangle below its left stem; the stem is as wide as the l is."""
    cmap = font.getBestCmap()
    u, glyphs = cmap[ord("u")], font.getGlyphSet()
    points, _ends, _flags = font["glyf"][u].getCoordinates(font["glyf"])
    left = min(x for x, _ in points)
    stem = sorted({x for x, y in points if y > max(y for _, y in points) * 0.9})[1] - left
    below = min(y for _, y in font["glyf"][cmap[ord("p")]].getCoordinates(font["glyf"])[0])
    pen = TTGlyphPen(glyphs)
    glyphs[u].draw(pen)
    half = max(y for _, y in points) / 2
    for n, (x, y) in enumerate([(left, below), (left, half), (left + stem, half), (left + stem, below)]):
        (pen.lineTo if n else pen.moveTo)((x, y))
    pen.closePath()
    font["glyf"]["micro"] = pen.glyph()
    font["hmtx"]["micro"] = font["hmtx"][u]
    font.setGlyphOrder([*dict.fromkeys([*font.getGlyphOrder(), "micro"])])
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[MICRO] = "micro"


def main() -> None:
    for name, source in FONTS.items():
        font = TTFont(SOURCE / source)
        font.flavor = None
        add_micro(font)
        font.save(TARGET / f"{name}.ttf")


if __name__ == "__main__":
    main()
