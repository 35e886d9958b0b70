"""OpenRaster: pictures as named layers for painting programs."""

import io
import zipfile
from collections.abc import Sequence
from xml.etree import ElementTree as ET


def open_raster(layers: Sequence[tuple[str, bytes]], merged: bytes) -> bytes:
    """Layers, each a name and a PNG of one size, the lowest first, as one file; `merged` is the PNG
    of all of them."""
    width, height = (int.from_bytes(merged[at : at + 4], "big") for at in (16, 20))
    image = ET.Element("image", {"w": str(width), "h": str(height), "version": "0.0.5"})
    stack = ET.SubElement(image, "stack")
    for number, (title, _unused) in reversed(list(enumerate(layers))):
        ET.SubElement(stack, "layer", {"name": title, "src": f"data/layer{number:03d}.png"})
    content = io.BytesIO()
    with zipfile.ZipFile(content, "w") as archive:
        archive.writestr("mimetype", "image/openraster", zipfile.ZIP_STORED)
        archive.writestr("stack.xml", ET.tostring(image, encoding="utf-8", xml_declaration=True))
        for number, (_title, picture) in enumerate(layers):
            archive.writestr(f"data/layer{number:03d}.png", picture)
        for name in ("mergedimage.png", "Thumbnails/thumbnail.png"):
            archive.writestr(name, merged)
    return content.getvalue()
