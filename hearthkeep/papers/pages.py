"""Pages of a PDF as pictures and as text, by a reader of its own."""

from __future__ import annotations

import io
from collections.abc import Sequence

import pypdfium2


def joined(pdfs: Sequence[bytes]) -> bytes:
    """Several PDFs as one, each with its own page numbers."""
    whole = pypdfium2.PdfDocument.new()
    try:
        for pdf in pdfs:
            part = pypdfium2.PdfDocument(pdf)
            whole.import_pages(part)
            part.close()
        out = io.BytesIO()
        whole.save(out)
        return out.getvalue()
    finally:
        whole.close()


def page_sizes(pdf: bytes) -> list[tuple[float, float]]:
    """Width and height of each page [pt]."""
    document = pypdfium2.PdfDocument(pdf)
    try:
        return [document.get_page_size(at) for at in range(len(document))]
    finally:
        document.close()


def page_image(pdf: bytes, number: int, width_px: int) -> bytes:
    """One page, counted from 1, as a PNG so wide."""
    document = pypdfium2.PdfDocument(pdf)
    try:
        page = document[number - 1]
        image = page.render(scale=width_px / page.get_width()).to_pil()
        out = io.BytesIO()
        image.convert("L" if image.getbands() == ("L",) else "RGB").save(out, "PNG")
        return out.getvalue()
    finally:
        document.close()


def page_texts(pdf: bytes) -> list[str]:
    """The text of each page."""
    document = pypdfium2.PdfDocument(pdf)
    try:
        return [page.get_textpage().get_text_range() for page in document]
    finally:
        document.close()
