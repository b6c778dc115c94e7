"""Photographs that are kept beside a look: turned upright, small enough, and without anything but the picture in them."""

from __future__ import annotations

import base64
import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager

import numpy as np
import pi_heif
from numpy.typing import NDArray
from PIL import Image, ImageOps, UnidentifiedImageError

from nabrel.core.card.layout import Box
from nabrel.core.card.markers import Flat
from nabrel.core.errors import Refused

KINDS = ("JPEG", "PNG", "WEBP", "HEIF")
KINDS_SAID = "a photograph as JPEG, PNG, WebP or HEIC that can be opened"
MOST_BYTES, MOST_PIXELS = 25_000_000, 50_000_000
MOST_SAID = f"at most {MOST_PIXELS // 1_000_000} megapixels"
MOST_DECODED = 24_000_000
MOST_DECODED_SAID = f"at most {MOST_DECODED // 1_000_000} megapixels as PNG, WebP or HEIC; a JPEG may have more"
LONGEST_SIDE, QUALITY = 1280, 88


def re_encoded(data: bytes) -> bytes:
    """The picture as it is kept: a JPEG of at most 1280 pixels a side, upright, with no metadata.

    Always encoded anew: whatever else is in the file stays behind. Refuses what is no picture, and what is too large to be opened.
    """
    with _opened(data) as found:
        small = _decoded(found, LONGEST_SIDE)
        upright = ImageOps.exif_transpose(small)
        upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE), Image.Resampling.LANCZOS)
        bare = _flat(upright)
    # What is in here would be written along: comments, profiles, the place.
    bare.info = {}
    out = io.BytesIO()
    bare.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


def _decoded(found: Image.Image, side: int) -> Image.Image:
    """A picture decoded no larger than is asked for, as far as its kind can be: a JPEG at a half, a quarter or an eighth."""
    found.draft("RGB", (side, side))
    if found.width * found.height > MOST_DECODED:
        raise Refused("photo", f"{found.width} × {found.height} pixels", MOST_DECODED_SAID)
    by = max(1, min(found.size) // side)
    return found.reduce(by) if by > 1 else found


def _flat(picture: Image.Image) -> Image.Image:
    """The picture in plain colour: what shows through is white."""
    if picture.mode in ("RGBA", "LA", "PA") or "transparency" in picture.info:
        whole = picture.convert("RGBA")
        ground = Image.new("RGB", whole.size, "white")
        ground.paste(whole, mask=whole.getchannel("A"))
        return ground
    return picture.convert("RGB")


@contextmanager
def _opened(data: bytes) -> Iterator[Image.Image]:
    """A picture, not decoded yet. What turns out wrong with it within is refused too, and what is too large before a pixel is decoded."""
    if len(data) > MOST_BYTES:
        raise Refused("photo", f"{len(data):,} bytes", f"at most {MOST_BYTES:,} bytes")
    try:
        with warnings.catch_warnings():
            # We say ourselves what is too large, before a pixel is decoded.
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            pi_heif.register_heif_opener()
            found = Image.open(io.BytesIO(data), formats=KINDS)
        if found.width * found.height > MOST_PIXELS:
            raise Refused("photo", f"{found.width} × {found.height} pixels", MOST_SAID)
        yield found
    except Refused:
        raise
    except Image.DecompressionBombError:
        raise Refused("photo", "a larger one", MOST_SAID) from None
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError, RuntimeError):
        raise Refused("photo", "something else", KINDS_SAID) from None


CROP_PX, CROP_QUALITY = 120, 80
"""A crop is at most so many pixels wide or high."""


def crop_of(flat: Flat, box: Box) -> str:
    """A part of a card that was laid flat (mm), as an address that holds the picture itself."""
    x, y, width, height = (round(each * flat.px_per_mm) for each in box)
    part = np.clip(flat.values[y : y + height, x : x + width] * 255.0, 0, 255).astype(np.uint8)
    picture = Image.fromarray(part)
    picture.thumbnail((CROP_PX, CROP_PX), Image.Resampling.BOX)
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=CROP_QUALITY)
    return "data:image/jpeg;base64," + base64.b64encode(out.getvalue()).decode("ascii")


MOST_READ_PX = 2000
"""A picture that is read for its colours is opened at a half or less of its size, as long as it has so many pixels a side."""


def opened_picture(data: bytes) -> NDArray[np.uint8]:
    """A picture as it is read for its colours: upright, red green blue, without its metadata; nothing of it is kept.

    Refuses what is no picture, one that moves, and what is too large to be opened.
    """
    with _opened(data) as found:
        if getattr(found, "n_frames", 1) > 1:
            raise Refused("photo", "a picture that moves", "one picture")
        # Every copy of a whole picture is tens of megabytes: it is made small first, and copied only where it must be.
        picture = _decoded(found, MOST_READ_PX)
        ImageOps.exif_transpose(picture, in_place=True)
        return np.asarray(picture if picture.mode == "RGB" else _flat(picture))
