"""The household's sentences in other languages: catalogues by gettext, lists, numbers and dates by the Unicode locale data."""

from __future__ import annotations

import gettext
import io
import re
from datetime import date
from functools import cache
from pathlib import Path

from babel import Locale
from babel.dates import format_date
from babel.lists import format_list
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po
from babel.numbers import get_decimal_symbol, get_group_symbol

from hearthkeep.core.design import Design, HouseholdLanguage
from hearthkeep.core.words import Names, Sentence, counted_sentence, shortened
from hearthkeep.papers.audiences import Audience
from hearthkeep.papers.household_words import MORE
from hearthkeep.papers.words import long_date

_LOCALES = Path(__file__).resolve().parent / "locales"
#: A number at the beginning of a value, as the core writes it.
_NUMBER = re.compile(r"^\d[\d,]*(\.\d+)?")
#: Values that are names, whatever they begin with.
_NAMES = ("name",)


class Speech:
    """One language: English as the sentences stand, or another by its catalogue."""

    def __init__(self, language: HouseholdLanguage | None) -> None:
        """Without a language, English."""
        self.language = language
        self._locale = Locale.parse("en" if language is None else language.value)
        self._texts = None if language is None else _catalogue(language)

    @property
    def tag(self) -> str:
        """As a page names its language."""
        return str(self._locale).replace("_", "-")

    @property
    def name(self) -> str:
        """Its own name for itself."""
        return str(self._locale.get_display_name() or self.tag)

    @property
    def is_machine_made(self) -> bool:
        """Whether no speaker has checked it."""
        return self.language is not None

    def say(self, text: str) -> str:
        """A sentence in this language; what is no sentence, a name for one, stays as it is."""
        if self._texts is None or not isinstance(text, Sentence):
            return text
        if text.plural is not None:
            pattern = self._texts.ngettext(text.pattern, text.plural, text.number)
        else:
            pattern = self._texts.gettext(text.pattern) if text.pattern else ""
        return pattern.format_map({key: self._value(key, value) for key, value in text.values.items()})

    def joined(self, sentences: tuple[Sentence, ...]) -> str:
        """Sentences one after the other."""
        return ("" if self.tag.startswith("zh") else " ").join(map(self.say, sentences))

    def day(self, day: date) -> str:
        """A date in full."""
        return long_date(day) if self._texts is None else format_date(day, "long", locale=self._locale)

    def _value(self, key: str, value: str | Names) -> str:
        if isinstance(value, Names):
            shown = [
                self.say(shortened(name) if not isinstance(name, Sentence) else name)
                for name in value.names[: value.most]
            ]
            left = len(value.names) - value.most
            if left > 0:
                shown.append(self.say(counted_sentence(MORE.pattern, MORE.plural or "", left)))
            return format_list(shown, locale=self._locale)
        if isinstance(value, Sentence):
            return self.say(value)
        return value if key in _NAMES else _NUMBER.sub(self._number, value, count=1)

    def _number(self, found: re.Match[str]) -> str:
        group, point = get_group_symbol(self._locale), get_decimal_symbol(self._locale)
        return found.group().translate({ord(","): group, ord("."): point})


@cache
def speech_of(language: HouseholdLanguage | None) -> Speech:
    """A language, read once."""
    return Speech(language)


def speeches_of(design: Design, audience: Audience) -> tuple[Speech, ...]:
    """English, and beside it what the household reads, on the papers that are the household's."""
    second = design.papers.household_language
    is_theirs = audience in (Audience.FAMILY, Audience.WALL) and second is not None
    return (speech_of(None), speech_of(second)) if is_theirs else (speech_of(None),)


def catalogue_file(language: HouseholdLanguage) -> Path:
    """The catalogue of a language."""
    return _LOCALES / f"{language.value}.po"


def _catalogue(language: HouseholdLanguage) -> gettext.GNUTranslations:
    with catalogue_file(language).open("rb") as file:
        catalog = read_po(file, locale=language.value)
    compiled = io.BytesIO()
    write_mo(compiled, catalog)
    compiled.seek(0)
    return gettext.GNUTranslations(compiled)
