"""Lettering and line work as bitmaps. All fonts are free ones under the SIL Open Font License, from Debian."""

from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

FONTS = Path("/usr/share/fonts")
STENCIL = FONTS / "opentype/bebas-neue/BebasNeue-Bold.otf"
ENGRAVED = FONTS / "truetype/fonts-oldstandard/OldStandard-Bold.ttf"
SIGN = FONTS / "opentype/cabin/Cabin-Bold.otf"
SMALL = FONTS / "truetype/lato/Lato-Bold.ttf"


class Sheet:
    """A grey drawing ``width`` x ``height`` in units of ``px`` pixels, y upwards from its lower left corner."""

    def __init__(self, width, height, px):
        self.px = px
        self.image = Image.new("L", (round(width * px), round(height * px)), 0)
        self.pen = ImageDraw.Draw(self.image)

    def at(self, x, y):
        return x * self.px, self.image.height - y * self.px

    def text(self, x, y, words, font, size, track=0.0, ink=255):
        """Words centred on (x, y), letters ``track`` further apart than the font sets them."""
        face = ImageFont.truetype(str(font), int(size * self.px))
        gap = track * self.px
        left, middle = self.at(x, y)
        left -= (sum(face.getlength(c) for c in words) + gap * (len(words) - 1)) / 2
        for letter in words:
            self.pen.text((left, middle), letter, font=face, fill=ink, anchor="lm")
            left += face.getlength(letter) + gap

    def polygon(self, points, ink=255):
        self.pen.polygon([self.at(*p) for p in points], fill=ink)

    def rectangle(self, x0, y0, x1, y1, ink=255, line=0.0, radius=0.0):
        (left, bottom), (right, top) = self.at(x0, y0), self.at(x1, y1)
        style = {"outline": ink, "width": round(line * self.px)} if line else {"fill": ink}
        self.pen.rounded_rectangle([left, top, right, bottom], radius * self.px, **style)

    def circle(self, x, y, r, ink=255, line=0.0):
        cx, cy = self.at(x, y)
        reach = r * self.px
        style = {"outline": ink, "width": round(line * self.px)} if line else {"fill": ink}
        self.pen.ellipse([cx - reach, cy - reach, cx + reach, cy + reach], **style)

    def map(self):
        """The drawing in 0..1, row 0 at the bottom, as the renderer's textures have it."""
        return np.asarray(self.image)[::-1].astype(np.float32) / 255
