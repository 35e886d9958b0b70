"""The shipped type family for PDF: reportlab takes TrueType outlines only, so the cubic ones of the
shipped files are turned into quadratic ones (within one unit of the em) when first needed."""

import io
from importlib import resources

FACES = {"B612": "B612-Regular", "B612-Bold": "B612-Bold"}
WITHIN_UNITS = 1.0


def register() -> None:
    """Make the family known to reportlab, once."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    known = pdfmetrics.getRegisteredFontNames()
    for name, file in FACES.items():
        if name in known:
            continue
        pdfmetrics.registerFont(TTFont(name, _true_type(file)))


def _true_type(file: str) -> io.BytesIO:
    from fontTools.pens.cu2quPen import Cu2QuPen
    from fontTools.pens.ttGlyphPen import TTGlyphPen
    from fontTools.ttLib import TTFont, newTable

    content = resources.files("isometron").joinpath(f"fonts/{file}.otf").read_bytes()
    font = TTFont(io.BytesIO(content))
    order, outlines, glyphs = font.getGlyphOrder(), font.getGlyphSet(), {}
    for name in order:
        pen = TTGlyphPen(outlines)
        outlines[name].draw(Cu2QuPen(pen, WITHIN_UNITS, reverse_direction=True))
        glyphs[name] = pen.glyph()
    font["loca"] = newTable("loca")
    font["glyf"] = table = newTable("glyf")
    table.glyphOrder, table.glyphs = order, glyphs
    for cubic in ("VORG", "CFF "):
        if cubic in font:
            del font[cubic]
    table.compile(font)
    for name in order:
        font["hmtx"][name] = (font["hmtx"][name][0], getattr(glyphs[name], "xMin", 0))
    most = font["maxp"]
    most.tableVersion = 0x00010000
    most.maxZones = 1
    for unused in (
        "maxTwilightPoints",
        "maxStorage",
        "maxFunctionDefs",
        "maxInstructionDefs",
        "maxStackElements",
        "maxSizeOfInstructions",
        "maxComponentElements",
    ):
        setattr(most, unused, 0)
    post = font["post"]
    post.formatType, post.extraNames, post.mapping, post.glyphOrder = 2.0, [], {}, order
    font.sfntVersion = "\000\001\000\000"
    made = io.BytesIO()
    font.save(made)
    made.seek(0)
    return made
