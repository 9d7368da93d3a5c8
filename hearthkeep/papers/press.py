"""From a source to pages: the sheets filled in, laid out and written as PDF."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import TYPE_CHECKING, Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from markupsafe import Markup, escape

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.core.wiring import OneLine
from hearthkeep.exchange import one_line_svg, texts_in, windows
from hearthkeep.papers import drawings, household_words, rows
from hearthkeep.papers.audiences import AUDIENCES, Audience
from hearthkeep.papers.cautions import cautions_of
from hearthkeep.papers.household import cautions, household_of
from hearthkeep.papers.languages import Speech, speeches_of
from hearthkeep.papers.source import PaperSource
from hearthkeep.papers.words import filters_for

if TYPE_CHECKING:
    from weasyprint import Document

_HERE = Path(__file__).resolve().parent
#: Room for a sheet's title and the note below its picture [mm].
_TITLE_MM = 20.0
#: Of a diagram: the least millimetres a unit of its drawing, at which its small texts are 6 pt high, and those of one that is cut.
_LEAST_SCALE, _TALL_SCALE = 0.19, 0.22
#: Room beside a text of a diagram [its units], and where its baseline lies in its line, as a part of its height.
_ROOM_PX, _BASELINE = 40.0, 0.86
#: Characters that a line of the foot holds at the least.
_FOOT_CHARACTERS = 112
#: Of a paper that is to be one sheet, the largest first.
TYPE_SIZES = ("large", "medium", "small")
#: Told while pages are laid out: how many there are so far.
Tell = Callable[[int], None]


class PrintingMissingError(HearthKeepError):
    """The library that lays out pages is not installed on this machine."""

    code, title = "PRINTING_MISSING", "Pages cannot be laid out on this machine"
    fix = "Let an administrator run ./hearth setup once: it installs Debian's libpango and fonts."


@dataclass(frozen=True, kw_only=True, slots=True)
class Paper:
    """One printed paper."""

    audience: Audience
    pdf: bytes
    pages: int


def print_paper(source: PaperSource, audience: Audience, *, tell: Tell | None = None) -> Paper:
    """One audience's paper. Raises PrintingMissingError."""
    document = laid_out(source, audience, tell=tell)
    return Paper(audience=audience, pdf=document.write_pdf(), pages=len(document.pages))


def laid_out(source: PaperSource, audience: Audience, *, tell: Tell | None = None) -> Document:
    """The pages of one paper, before they are written; one that is to be a sheet in the largest type that takes one side, or else both."""
    if not AUDIENCES[audience].is_one_sheet:
        return _rendered(html_of(source, audience), tell)
    # Trying a size takes a second of a long sheet: one that cannot fit is not tried.
    loads = len(source.design.loads)
    sizes = TYPE_SIZES[(loads > 18) + (loads > 30) :]
    languages = len(speeches_of(source.design, audience))
    for pages, both_sides in ((1, False), (2, True)):
        for size in sizes:
            document = _rendered(html_of(source, audience, type_size=size, both_sides=both_sides), tell)
            if len(document.pages) <= pages * languages:
                return document
    return document


def _rendered(text: str, tell: Tell | None) -> Document:
    try:
        from weasyprint import CSS, HTML
        from weasyprint.text.fonts import FontConfiguration
    except (OSError, ImportError) as error:
        raise PrintingMissingError(f"libpango cannot be loaded ({error}).") from error
    fonts = FontConfiguration()
    style = CSS(filename=_HERE / "style.css", font_config=fonts, url_fetcher=_own_files())
    html = HTML(string=text, base_url=_HERE.as_uri(), url_fetcher=_own_files())
    with _told(tell):
        return html.render(stylesheets=[style], font_config=fonts)


def html_of(
    source: PaperSource, audience: Audience, *, type_size: str = TYPE_SIZES[0], both_sides: bool = False
) -> str:
    """One paper as HTML."""
    design, info, speeches = source.design, AUDIENCES[audience], speeches_of(source.design, audience)
    environment = _environment().overlay()
    environment.filters = {**environment.filters, **filters_for(design)}
    return environment.get_template("paper.html").render(
        source=source,
        design=design,
        found=source.assessment,
        outage=source.assessment.outage,
        transfer=source.assessment.transfer,
        info=info,
        rows=rows,
        household_of=household_of,
        words=household_words,
        speeches=speeches,
        feet=_feet(source, audience, speeches),
        page_counts={speech.tag: page_count(speech) for speech in speeches},
        size="Letter" if source.is_us else "A4",
        margins_mm=_margins_mm(source, audience),
        type_size=type_size,
        both_sides=both_sides,
        draw=_drawn(source),
    )


def page_count(speech: Speech) -> str:
    """Which page of how many, as a style sheet counts them."""
    first, second = "\x01", "\x02"
    text = escape(speech.say(household_words.page_of(first, second)))
    counters = {first: '" counter(page) "', second: '" counter(pages) "'}
    return Markup('"' + "".join(counters.get(letter, letter) for letter in text) + '"')


def _feet(source: PaperSource, audience: Audience, speeches: tuple[Speech, ...]) -> dict[str, str]:
    """The cautions by language; of the household's own in theirs, with a word on who translated them."""
    found = {speeches[0].tag: cautions_of(source, audience)}
    for speech in speeches[1:]:
        found[speech.tag] = speech.joined((*cautions(source.design), household_words.MACHINE_MADE))
    return found


def _margins_mm(source: PaperSource, audience: Audience) -> tuple[float, float, float]:
    """Above, beside and below what is printed [mm]; above stand the name and the band of Stops, below the cautions."""
    name_lines, band_lines = rows.head_lines(source)
    feet = _feet(source, audience, speeches_of(source.design, audience))
    foot_lines = 1 + max(len(foot) for foot in feet.values()) // _FOOT_CHARACTERS
    return 13 + 4.2 * name_lines + (2 + 3.8 * band_lines if band_lines else 0), 14.0, 12.0 + 3.4 * max(foot_lines, 2)


def _drawn(source: PaperSource) -> dict[str, Callable[[], Any]]:
    """The pictures by name, each as SVG of our own making, drawn when a sheet asks for it; the one-line sheet by sheet."""
    outage = source.assessment.outage
    return {
        "strip": lambda: Markup(drawings.strip_svg(outage, source.assessment.bank.capacity_wh)),
        "curve": lambda: Markup(drawings.curve_svg(source.proof.trials)),
        "one_line": lambda: [Markup(part) for part in _on_sheets(source)],
    }


def _on_sheets(source: PaperSource) -> Iterator[str]:
    """The one-line as large as a sheet on its side takes it, on as many sheets as its texts need to be read."""
    drawing = source.wiring.one_line
    head, side, foot = _margins_mm(source, Audience.ELECTRICIAN)
    long, short = (279.4, 215.9) if source.is_us else (297.0, 210.0)
    wide, high = long - 2 * side, short - head - foot - _TITLE_MM
    scale = min(wide / drawing.width_px, high / drawing.height_px)
    parts = [(0.0, drawing.height_px)]
    if scale < _LEAST_SCALE:
        scale = min(wide / drawing.width_px, _TALL_SCALE)
        parts = windows(drawing, high / scale)
    for part in parts:
        here = min(scale, high / (part[1] - part[0]))
        svg = one_line_svg(drawing, window=part, has_texts=False).decode()
        yield f'<div class="drawing" style="width: {here * drawing.width_px:.1f}mm">{svg}{_texts_over(drawing, part, here)}</div>'


def _texts_over(drawing: OneLine, window: tuple[float, float], scale: float) -> str:
    """A diagram's texts as lines of the page, laid over its lines: set so, every script is joined and ordered as it should be."""
    parts = []
    for text in texts_in(drawing, window):
        left, _, right, _ = text.box
        # Room to both sides, for scripts whose letters are wider than those that the box was made for.
        room = right - left + 2 * _ROOM_PX
        at = {"start": text.x, "middle": text.x - room / 2, "end": text.x - room}[text.anchor]
        align = {"start": "left", "middle": "center", "end": "right"}[text.anchor]
        top = text.y - _BASELINE * text.height_px - window[0]
        parts.append(
            f'<div class="over" style="left: {scale * at:.2f}mm; top: {scale * top:.2f}mm; width: {scale * room:.2f}mm; '
            f'font-size: {scale * text.height_px:.2f}mm; text-align: {align}">{escape(text.text)}</div>'
        )
    return "".join(parts)


@cache
def _environment() -> Environment:
    environment = Environment(
        loader=FileSystemLoader(_HERE / "sheets"), autoescape=True, undefined=StrictUndefined, trim_blocks=True,
        lstrip_blocks=True,
    )  # fmt: skip
    environment.globals["moments_of"] = drawings.moments_of
    return environment


@cache
def _own_files() -> Any:
    """A fetcher that reads only what ships in this folder, and nothing from any network."""
    from weasyprint import URLFetcher

    class OwnFiles(URLFetcher):  # type: ignore[misc]
        def fetch(self, url: str, headers: Any = None) -> Any:
            if not url.startswith(_HERE.as_uri() + "/") or ".." in url:
                raise ValueError("papers read nothing but their own files")
            return super().fetch(url, headers)

    return OwnFiles(allowed_protocols={"file"})


class _PageCount(logging.Handler):
    """Passes on how many pages have been laid out."""

    def __init__(self, tell: Tell) -> None:
        super().__init__()
        self._tell = tell

    def emit(self, record: logging.LogRecord) -> None:
        if "Page" in record.msg and isinstance(record.args, tuple):
            self._tell(int(str(record.args[0])))


@contextmanager
def _told(tell: Tell | None) -> Iterator[None]:
    if tell is None:
        yield
        return
    from weasyprint.logger import PROGRESS_LOGGER

    handler, level = _PageCount(tell), PROGRESS_LOGGER.level
    PROGRESS_LOGGER.addHandler(handler)
    PROGRESS_LOGGER.setLevel(logging.INFO)
    try:
        yield
    finally:
        PROGRESS_LOGGER.removeHandler(handler)
        PROGRESS_LOGGER.setLevel(level)
