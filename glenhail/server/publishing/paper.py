"""An edition as one PDF: tagged, with page numbers, contents and every crop."""

from __future__ import annotations

import io
import logging
from email.message import EmailMessage
from pathlib import Path
from typing import Any
from urllib.parse import parse_qs, unquote, urlsplit

import numpy as np
from django.template.loader import render_to_string
from PIL import Image, ImageFile

from glenhail.core.articles.paper import TALLEST, TALLEST_LEAD, PaperCrop, paper_crop, repeats

Document = dict[str, Any]
# Nothing is ever fetched from it: what an edition prints lies in its own folder.
BASE = "http://edition.invalid/"
SPOT = 30  # mm that a remark's crop takes
STYLE = Path(__file__).parent / "templates" / "publishing" / "paper" / "paper.css"
NAME = "edition.pdf"


def print_paper(document: Document, folder: Path, sha256: str) -> None:
    """Write an edition's PDF beside its other files.

    Parameters
    ----------
    document : dict
        The edition, with its crops.
    folder : Path
        Where these lie.
    sha256 : str
        Of the document: the PDF's own identifier.
    """
    # Half a second of import, which only printing takes. It tells Pillow to take files that were
    # cut short, for all of the process: what is measured here must not be such a one.
    strict = ImageFile.LOAD_TRUNCATED_IMAGES
    from weasyprint import CSS, HTML
    from weasyprint.text.fonts import FontConfiguration
    from weasyprint.urls import URLFetcher, URLFetcherResponse

    ImageFile.LOAD_TRUNCATED_IMAGES = strict

    logging.getLogger("weasyprint").setLevel(logging.ERROR)
    logging.getLogger("fontTools").setLevel(logging.ERROR)

    class OwnFolder(URLFetcher):  # type: ignore[misc]
        def fetch(
            self, url: str, headers: dict[str, str] | EmailMessage | None = None
        ) -> URLFetcherResponse:
            body, kind = own_file(folder, url)
            return URLFetcherResponse(url, body, {"Content-Type": kind})

    html = render_to_string("publishing/paper/edition.html", {"d": placed(document)})
    fetcher, fonts = OwnFolder(), FontConfiguration()
    page = HTML(string=html, base_url=BASE, url_fetcher=fetcher, media_type="print")
    style = CSS(STYLE, font_config=fonts, base_url=BASE, url_fetcher=fetcher)
    page.write_pdf(
        folder / NAME,
        stylesheets=[style],
        font_config=fonts,
        pdf_variant="pdf/ua-1",
        # Its letters: a string of bytes loses a CR to a reader that takes line ends as one kind.
        pdf_identifier=sha256.encode("ascii"),
    )


def placed(document: Document) -> Document:
    """A document whose figures know how large they stand on paper."""
    lead = document["lead"]
    patches = [{**p, **_placed(p, i == lead)} for i, p in enumerate(document["patches"])]
    figures = [{**f, **_placed(f, False)} for f in document.get("figures", ())]
    return {**document, "patches": patches, "figures": figures}


def _placed(patch: Document, lead: bool) -> Document:
    _, _, w, h = patch["rect"]
    box = paper_crop(w, h, len(patch["crops"]), TALLEST_LEAD if lead else TALLEST)
    return {
        "paper": {k: f"{getattr(box, k):.3f}mm" for k in ("width", "height", "row")},
        "crops": [{**crop, "paper": _lie(crop["css"], box)} for crop in patch["crops"]],
    }


def _lie(shares: dict[str, str], box: PaperCrop) -> dict[str, str]:
    """Where a crop's whole pixels lie about its box: in mm, since what is placed by
    shares stays behind where a figure moves on to the next page.
    """
    part = {k: float(v.rstrip("%")) / 100 for k, v in shares.items()}
    whole = {"left": box.width, "width": box.width, "top": box.height, "height": box.height}
    told = {k: f"{part[k] * whole[k]:.3f}mm" for k in part}
    return {**told, "mm": f"{part['width'] * box.width:.1f}"}


def own_file(folder: Path, url: str) -> tuple[bytes, str]:
    """A file of the edition; a crop with its pixels repeated for so many mm of paper."""
    told = urlsplit(url)
    path = (folder / unquote(told.path).lstrip("/")).resolve()
    if not url.startswith(BASE) or not path.is_relative_to(folder.resolve()):
        raise ValueError(f"{url} is no part of the edition")
    data = path.read_bytes()
    if path.suffix != ".png":
        return data, "font/woff2"
    wide = float(parse_qs(told.query).get("mm", [SPOT])[0])
    with Image.open(io.BytesIO(data)) as image:
        codes = np.asarray(image.convert("RGB"))
    times = repeats(codes.shape[1], wide)
    larger = codes.repeat(times, axis=0).repeat(times, axis=1)
    out = io.BytesIO()
    Image.fromarray(larger).save(out, "PNG", compress_level=0)
    return out.getvalue(), "image/png"
