"""A picture with something private in every block a format knows: nothing of it in the sheet."""

import io
import zlib

import numpy as np
import pytest
from PIL import Image, ImageCms, PngImagePlugin, TiffImagePlugin

from isometron.document.document import Document
from isometron.document.edits.pictures.bringing import bring_picture, put_sheet
from isometron.files.sheet_file import read_sheet, write_sheet
from isometron.reading.of_picture import picture_in
from isometron.reading.pictures import MOST, PictureError, take_in
from isometron.reading.sketch.own_sheet import own_sheet

SECRET = b"Brackenmoor-gate-code-4711"


def pixels():
    grey = np.full((120, 160, 3), 240, dtype=np.uint8)
    grey[40:44], grey[:, 60:64] = 0, 30
    return Image.fromarray(grey)


def profile():
    made = bytearray(ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes())
    return bytes(made + SECRET)


def exif():
    told = Image.Exif()
    told[0x010E], told[0x013B], told[0x9286] = SECRET.decode(), SECRET.decode(), SECRET
    told.get_ifd(0x8825)[29] = SECRET.decode()
    return told.tobytes()


def segment(marker, content):
    return bytes([0xFF, marker]) + (len(content) + 2).to_bytes(2, "big") + content


def jpeg():
    made = io.BytesIO()
    pixels().save(made, "JPEG", exif=exif(), comment=SECRET, icc_profile=profile(), xmp=SECRET)
    whole = made.getvalue()
    more = b"".join(segment(marker, b"own\0" + SECRET) for marker in (*range(0xE3, 0xF0), 0xFE))
    return whole[:2] + more + whole[2:] + SECRET


def png():
    made, texts = io.BytesIO(), PngImagePlugin.PngInfo()
    texts.add_text("Comment", SECRET.decode())
    texts.add_text("Author", SECRET.decode() * 40, zip=True)
    texts.add_itxt("XML:com.adobe.xmp", SECRET.decode())
    texts.add(b"prVt", SECRET)
    pixels().save(made, "PNG", pnginfo=texts, exif=exif(), icc_profile=profile())
    return made.getvalue() + SECRET


def tiff():
    made, told = io.BytesIO(), TiffImagePlugin.ImageFileDirectory_v2()
    for tag in (270, 305, 315, 33432):
        told[tag] = SECRET.decode()
    told.tagtype[700] = told.tagtype[33723] = 7
    told[700], told[33723] = SECRET, SECRET
    pixels().save(made, "TIFF", tiffinfo=told, icc_profile=profile())
    return made.getvalue() + SECRET


def webp():
    made = io.BytesIO()
    pixels().save(made, "WEBP", lossless=True, exif=exif(), icc_profile=profile(), xmp=SECRET)
    return made.getvalue()


def holds(content):
    """Whether a file holds the secret, packed or not."""
    packed = [content]
    for at in range(len(content) - 2):
        if content[at] == 0x78 and content[at + 1] in (0x01, 0x5E, 0x9C, 0xDA):
            try:
                packed.append(zlib.decompressobj().decompress(content[at:], 100_000))
            except zlib.error:
                continue
    return any(SECRET in one for one in packed)


@pytest.mark.parametrize(
    ("made", "ending"), [(jpeg, "jpg"), (png, "png"), (tiff, "tif"), (webp, "webp")]
)
def test_nothing_but_its_pixels_comes_into_a_sheet(made, ending, tmp_path):
    content = made()
    assert holds(content)
    picture = picture_in(content, f"view.{ending}")
    corners = ((2.0, 2.0), (158.0, 3.0), (157.0, 118.0), (3.0, 117.0))
    sheet = own_sheet(content, "view", corners, (148.0, 105.0))
    for one in (picture, sheet):
        assert not holds(one.file.content)
        with Image.open(io.BytesIO(one.file.content)) as kept:
            assert not kept.getexif() and not {"comment", "icc_profile", "xmp", "exif"} & {
                *kept.info
            }
    document = put_sheet(bring_picture(Document(), picture), sheet)
    write_sheet(document, tmp_path / "sheet.isometron")
    assert SECRET not in (tmp_path / "sheet.isometron").read_bytes()
    assert read_sheet(tmp_path / "sheet.isometron") == document


def test_a_picture_of_too_many_pixels_is_refused_before_it_is_unpacked():
    """A PNG whose header promises more than anybody has memory for, and whose pixels never come."""
    whole = bytearray(png())
    whole[16:24] = (60_000).to_bytes(4, "big") * 2
    whole[29:33] = zlib.crc32(whole[12:29]).to_bytes(4, "big")
    with pytest.raises(PictureError, match=f"{MOST // 1_000_000}"):
        take_in(bytes(whole), "view.png")
