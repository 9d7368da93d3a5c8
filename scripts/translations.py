"""
Bring the household's catalogues up to date with the sentences in the code: new ones are added untranslated, dead ones go.

Run it with `./hearth exec python scripts/translations.py` after a sentence has changed; tests say what still lacks a translation.
"""

from __future__ import annotations

from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.extract import extract_from_file
from babel.messages.pofile import read_po, write_po

ROOT = Path(__file__).resolve().parents[1]
LOCALES = ROOT / "hearthkeep" / "papers" / "locales"
#: Where sentences for the household stand, and by what they are made.
SOURCES = ("hearthkeep/core/switching", "hearthkeep/papers/household.py", "hearthkeep/papers/household_words.py", "hearthkeep/core/words.py")  # fmt: skip
KEYWORDS = {"sentence": None, "counted_sentence": (1, 2)}


def template() -> Catalog:
    """Every sentence of the household, in the order of the files."""
    found = Catalog(project="Hearth Keep", charset="utf-8")
    for source in SOURCES:
        path = ROOT / source
        for file in sorted(path.rglob("*.py")) if path.is_dir() else [path]:
            for _, message, _, _ in extract_from_file("python", file, keywords=KEYWORDS):
                if message:
                    found.add(message, locations=[(file.relative_to(ROOT).as_posix(), None)])
    return found


def main() -> None:
    """Write every catalogue anew."""
    wanted = template()
    for path in sorted(LOCALES.glob("*.po")):
        with path.open("rb") as file:
            catalog = read_po(file, locale=path.stem)
        catalog.update(wanted, no_fuzzy_matching=True)
        catalog.obsolete.clear()
        with path.open("wb") as file:
            write_po(file, catalog, width=132, sort_output=True, omit_header=False, include_lineno=False)
        lacking = sum(1 for message in catalog if message.id and not message.string)
        print(f"{path.name}: {len(catalog)} sentences, {lacking} without a translation")


if __name__ == "__main__":
    main()
