"""Pages of a PDF as pictures and as text, by a reader of its own."""

from __future__ import annotations

import io
import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

import pypdfium2

#: The reader may be used by one thread at a time.
_READING = threading.Lock()


@contextmanager
def _opened(pdf: bytes) -> Iterator[Any]:
    with _READING:
        document = pypdfium2.PdfDocument(pdf)
        try:
            yield document
        finally:
            document.close()


def joined(pdfs: Sequence[bytes]) -> bytes:
    """Several PDFs as one, each with its own page numbers."""
    with _READING:
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
    with _opened(pdf) as document:
        return [document.get_page_size(at) for at in range(len(document))]


def page_image(pdf: bytes, number: int, width_px: int) -> bytes:
    """One page, counted from 1, as a PNG so wide."""
    with _opened(pdf) as document:
        page = document[number - 1]
        image = page.render(scale=width_px / page.get_width()).to_pil()
    # Rounding may have made it a pixel wider or narrower.
    image = image if image.width == width_px else image.resize((width_px, image.height))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def page_texts(pdf: bytes) -> list[str]:
    """The text of each page."""
    with _opened(pdf) as document:
        return [page.get_textpage().get_text_range() for page in document]
