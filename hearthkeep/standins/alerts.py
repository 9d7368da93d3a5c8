"""The stand-in's weather warnings: CAP 1.2 messages in a list, each signed, for areas that are made up."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta, timezone
from typing import Any

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import NameOID
from lxml import etree
from signxml import SignatureMethod, XMLSigner

CAP, ATOM = "urn:oasis:names:tc:emergency:cap:1.2", "http://www.w3.org/2005/Atom"
SENDER = "warnings@upper-birchrow.example"
#: Of a made-up valley: a circle about a point at sea, centre and radius [°, km].
AREA, CIRCLE = "Birchrow and the upper valley", "48.20,-30.50 25"
#: Hours before the outage begins at which the watch and the warning are sent, and how far from each other updates are [h].
WATCH_H, WARNING_H = 36.0, 10.0


@dataclass(frozen=True, slots=True)
class Told:
    """One message of the service."""

    identifier: str
    sent: datetime
    message_type: str
    #: The messages that it takes the place of.
    replaces: tuple[Told, ...]
    severity: str
    urgency: str
    certainty: str
    headline: str
    description: str
    onset: datetime
    expires: datetime


class WarningService:
    """Signs with a key that is made anew each time it starts."""

    def __init__(self, begun: datetime, hours_h: float, utc_offset_h: float) -> None:
        """
        Foretell an ice storm.

        :param begun: the grid fails then, local standard time; for so long [h].
        """
        self._key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Upper Birchrow warnings (stand-in)")])
        made = datetime.now(UTC)
        self._certificate = (
            x509.CertificateBuilder()
            .subject_name(name)
            .issuer_name(name)
            .public_key(self._key.public_key())
            .serial_number(x509.random_serial_number())
            .not_valid_before(made - timedelta(days=1))
            .not_valid_after(made + timedelta(days=30))
            .add_extension(x509.SubjectAlternativeName([x509.DNSName("upper-birchrow.example")]), critical=False)
            .add_extension(x509.BasicConstraints(ca=True, path_length=None), critical=True)
            .sign(self._key, hashes.SHA256())
        )
        zone = timezone(timedelta(hours=utc_offset_h))
        self._told = _course(begun.replace(tzinfo=zone), hours_h)

    @property
    def certificate(self) -> str:
        """PEM of the certificate that belongs to its key."""
        return self._certificate.public_bytes(serialization.Encoding.PEM).decode()

    def sent_by(self, now: datetime) -> tuple[Told, ...]:
        """Messages that are sent by a moment with its offset, the newest first."""
        return tuple(reversed([told for told in self._told if told.sent <= now]))

    def feed(self, now: datetime, base: str) -> bytes:
        """The list of messages as an Atom feed."""
        feed = etree.Element(f"{{{ATOM}}}feed", nsmap={None: ATOM})
        told = self.sent_by(now)
        for name, text in (("id", f"{base}/alerts.atom"), ("title", "Upper Birchrow warnings (stand-in)"),
                           ("updated", (told[0].sent if told else now).isoformat(timespec="seconds"))):  # fmt: skip
            etree.SubElement(feed, f"{{{ATOM}}}{name}").text = text
        author = etree.SubElement(feed, f"{{{ATOM}}}author")
        etree.SubElement(author, f"{{{ATOM}}}name").text = "Upper Birchrow warnings (stand-in)"
        for each in told:
            entry = etree.SubElement(feed, f"{{{ATOM}}}entry")
            for name, text in (("id", f"{base}/alerts/{each.identifier}.xml"), ("title", each.headline),
                               ("updated", each.sent.isoformat(timespec="seconds"))):  # fmt: skip
                etree.SubElement(entry, f"{{{ATOM}}}{name}").text = text
            etree.SubElement(
                entry, f"{{{ATOM}}}link", href=f"{base}/alerts/{each.identifier}.xml", type="application/cap+xml"
            )
        found: bytes = etree.tostring(feed, xml_declaration=True, encoding="UTF-8")
        return found

    def message(self, told: Told) -> bytes:
        """A message, signed."""
        signer = XMLSigner(signature_algorithm=SignatureMethod.ECDSA_SHA256)
        signed = signer.sign(_alert(told), key=self._key, cert=[self._certificate])
        found: bytes = etree.tostring(signed, xml_declaration=True, encoding="UTF-8")
        return found


def _course(begun: datetime, hours_h: float) -> tuple[Told, ...]:
    """Watch, warning, update while the storm is there, cancellation: each takes the place of the one before."""
    found: list[Told] = []
    ends = begun + timedelta(hours=hours_h)

    def tell(number: int, sent: datetime, kind: str, words: tuple[str, str, str], headline: str, text: str) -> None:
        severity, urgency, certainty = words
        found.append(
            Told(
                identifier=f"upper-birchrow-{begun:%Y%m%d}-{number}", sent=sent.replace(microsecond=0), message_type=kind,
                replaces=tuple(found[-1:]), severity=severity, urgency=urgency, certainty=certainty, headline=headline, description=text,
                onset=begun.replace(microsecond=0), expires=(ends + timedelta(hours=6)).replace(microsecond=0),
            )
        )  # fmt: skip

    tell(1, begun - timedelta(hours=WATCH_H), "Alert", ("Severe", "Future", "Possible"), "Ice storm watch",
         "Freezing rain may bring 10 to 20 mm of ice on lines and branches.")  # fmt: skip
    tell(2, begun - timedelta(hours=WARNING_H), "Update", ("Extreme", "Expected", "Likely"), "Ice storm warning",
         "Freezing rain through the night; long outages are likely.")  # fmt: skip
    tell(3, begun + timedelta(hours=6), "Update", ("Extreme", "Immediate", "Observed"), "Ice storm warning goes on",
         "Lines are down in the upper valley. Roads are closed to all but crews.")  # fmt: skip
    tell(4, ends - timedelta(hours=min(12.0, hours_h / 4)), "Cancel", ("Minor", "Past", "Observed"), "Ice storm warning has ended",
         "The freezing rain has passed.")  # fmt: skip
    return tuple(found)


def _alert(told: Told) -> Any:
    alert = etree.Element(f"{{{CAP}}}alert", nsmap={None: CAP})

    def put(parent: Any, name: str, text: str) -> None:
        etree.SubElement(parent, f"{{{CAP}}}{name}").text = text

    for name, text in (("identifier", told.identifier), ("sender", SENDER), ("sent", _stamp(told.sent)), ("status", "Exercise"),
                       ("msgType", told.message_type), ("scope", "Public"), ("note", "Of a stand-in: nobody is warned.")):  # fmt: skip
        put(alert, name, text)
    if told.replaces:
        put(alert, "references", " ".join(f"{SENDER},{each.identifier},{_stamp(each.sent)}" for each in told.replaces))
    info = etree.SubElement(alert, f"{{{CAP}}}info")
    for name, text in (
        ("language", "en-GB"), ("category", "Met"), ("event", "Ice storm"), ("responseType", "Prepare"), ("urgency", told.urgency),
        ("severity", told.severity), ("certainty", told.certainty), ("onset", _stamp(told.onset)), ("expires", _stamp(told.expires)),
        ("senderName", "Upper Birchrow warnings (stand-in)"), ("headline", told.headline), ("description", told.description),
        ("instruction", "Charge what holds charge, fill water, and look in on neighbours."),
    ):  # fmt: skip
        put(info, name, text)
    area = etree.SubElement(info, f"{{{CAP}}}area")
    put(area, "areaDesc", AREA)
    put(area, "circle", CIRCLE)
    return alert


def _stamp(moment: datetime) -> str:
    """A moment as CAP writes it: to the second, its offset in hours and minutes, and -00:00 for UTC."""
    text = moment.isoformat(timespec="seconds")
    return text.replace("+00:00", "-00:00")
