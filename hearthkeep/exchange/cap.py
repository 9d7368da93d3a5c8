"""Common Alerting Protocol 1.2 (OASIS Standard, 2010): messages read, and their signatures held against a known key."""

from __future__ import annotations

from datetime import datetime
from xml.etree.ElementTree import Element, ParseError

from cryptography.x509 import load_pem_x509_certificate
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from signxml import XMLVerifier
from signxml.exceptions import InvalidInput, InvalidSignature

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.core.watch import WeatherAlert

#: A message, and the list of them, are no longer than this [bytes].
MOST_CAP_BYTES, MOST_FEED_BYTES = 256 * 1024, 512 * 1024
#: Messages of one list that are fetched, the first ones.
MOST_ALERTS = 30
_CAP, _ATOM = "{urn:oasis:names:tc:emergency:cap:1.2}", "{http://www.w3.org/2005/Atom}"
_STATUSES = ("Actual", "Exercise", "System", "Test", "Draft")
_TYPES = ("Alert", "Update", "Cancel", "Ack", "Error")
#: What is kept of a text [characters].
_SHORT, _LONG = 200, 4_000
_MOST_AREAS, _MOST_REFERENCES = 50, 50


class CapError(HearthKeepError):
    """What came is no CAP 1.2 message, or no list of them."""

    code, title, fix = (
        "CAP",
        "The warning cannot be read",
        "Ask its sender; until then other sources of warnings count.",
    )


def read_alert(content: bytes, certificate: str | None = None) -> WeatherAlert:
    """
    Read a message; raises CapError.

    :param certificate: PEM of the sender's certificate: what it has signed is told, and read from the signed part alone.
    """
    root = _root(content, MOST_CAP_BYTES)
    signed = None if certificate is None or certificate.strip() == "" else _signed(content, certificate)
    root = root if signed is None else signed
    if root.tag != f"{_CAP}alert":
        raise CapError(f"It begins with {root.tag[:_SHORT]!r} and not with a CAP 1.2 alert.")
    info = _chosen(root)

    def said(element: Element | None, name: str, most: int = _SHORT) -> str:
        return "" if element is None else (element.findtext(f"{_CAP}{name}") or "").strip()[:most]

    references = [part.split(",")[1] for part in said(root, "references", 20_000).split() if part.count(",") == 2]
    areas = [] if info is None else [said(area, "areaDesc") for area in info.findall(f"{_CAP}area")[:_MOST_AREAS]]
    return WeatherAlert(
        identifier=_must(said(root, "identifier"), "identifier"),
        sender=_must(said(root, "sender"), "sender"),
        sent=_moment(said(root, "sent"), "sent"),
        status=_one_of(said(root, "status"), "status", _STATUSES),
        message_type=_one_of(said(root, "msgType"), "msgType", _TYPES),
        references=tuple(references[:_MOST_REFERENCES]),
        event=said(info, "event"),
        urgency=said(info, "urgency"),
        severity=said(info, "severity"),
        certainty=said(info, "certainty"),
        onset=None if not (text := said(info, "onset")) else _moment(text, "onset"),
        expires=None if not (text := said(info, "expires")) else _moment(text, "expires"),
        headline=said(info, "headline"),
        description=said(info, "description", _LONG),
        instruction=said(info, "instruction", _LONG),
        areas=tuple(area for area in areas if area),
        is_signed=signed is not None,
    )


def read_alert_links(content: bytes) -> tuple[str, ...]:
    """The addresses of the messages in an Atom list, as they stand there; raises CapError."""
    root = _root(content, MOST_FEED_BYTES)
    if root.tag != f"{_ATOM}feed":
        raise CapError(f"It begins with {root.tag[:_SHORT]!r} and not with an Atom feed.")
    links = [link.get("href", "") for entry in root.findall(f"{_ATOM}entry") for link in entry.findall(f"{_ATOM}link")]
    return tuple(dict.fromkeys(link for link in links if link))[:MOST_ALERTS]


def _root(content: bytes, most: int) -> Element:
    if len(content) > most:
        raise CapError(f"It is longer than {most // 1024} kB.")
    try:
        root: Element = fromstring(content, forbid_dtd=True)
    except DefusedXmlException as error:
        raise CapError("It declares a document type or entities, which no warning needs.") from error
    except (ParseError, ValueError, LookupError) as error:
        raise CapError(f"It is no XML: {str(error)[:_SHORT]}.") from error
    return root


def _signed(content: bytes, certificate: str) -> Element | None:
    """What the certificate's key has signed; none where it has signed nothing of it."""
    try:
        known = load_pem_x509_certificate(certificate.encode())
        found = XMLVerifier().verify(content, x509_cert=known)
    except (InvalidSignature, InvalidInput, ValueError, TypeError, KeyError):
        return None
    except Exception as error:
        # The libraries beneath raise whatever a message brings about; one of them must not take the others with it.
        raise CapError(f"Its signature cannot be checked ({type(error).__name__}).") from error
    result = found[0] if isinstance(found, list) else found
    signed: Element = fromstring(result.signed_data, forbid_dtd=True)
    return signed if signed.tag == f"{_CAP}alert" else None


def _chosen(root: Element) -> Element | None:
    """The part of a message in English, or else its first."""
    infos = root.findall(f"{_CAP}info")
    english = [info for info in infos if (info.findtext(f"{_CAP}language") or "en-US").strip().lower().startswith("en")]
    return next(iter([*english, *infos]), None)


def _must(text: str, name: str) -> str:
    if not text:
        raise CapError(f"It says no {name}.")
    return text


def _one_of(text: str, name: str, known: tuple[str, ...]) -> str:
    if text not in known:
        raise CapError(f"{name} must be one of {', '.join(known)} (got {text!r}).")
    return text


def _moment(text: str, name: str) -> datetime:
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        moment = None
    if moment is None or moment.tzinfo is None:
        raise CapError(
            f"{name} must be a moment with its offset, such as 2026-01-12T17:00:00-05:00 (got {text[:40]!r})."
        )
    return moment
