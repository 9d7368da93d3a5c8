"""The stand-in's message gateway: it takes mail by SMTP and shows what would have been sent; nothing leaves this machine."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass
from datetime import UTC, datetime
from email import message_from_bytes
from email.policy import default

from aiosmtpd.smtp import SMTP, Envelope, Session

#: What is kept, and how long a message may be [bytes].
MOST_MESSAGES, MOST_MESSAGE_BYTES = 100, 64 * 1024
SHOWN_CHARACTERS = 4_000


@dataclass(frozen=True, kw_only=True, slots=True)
class Taken:
    """One message as it would have been sent."""

    at: datetime
    sender: str
    to: tuple[str, ...]
    subject: str
    text: str


class Gateway:
    """Takes every message, to a telephone or an address alike."""

    def __init__(self) -> None:
        """Begin with nothing."""
        self.taken: deque[Taken] = deque(maxlen=MOST_MESSAGES)

    async def handle_DATA(self, server: SMTP, session: Session, envelope: Envelope) -> str:  # noqa: N802 - the library's name
        """Keep a message."""
        content = envelope.content
        message = message_from_bytes(content if isinstance(content, bytes) else str(content).encode(), policy=default)
        body = message.get_body(("plain",))
        text = body.get_content() if body is not None else ""
        self.taken.append(
            Taken(
                at=datetime.now(UTC), sender=str(envelope.mail_from), to=tuple(envelope.rcpt_tos), subject=str(message["subject"] or ""),
                text=text[:SHOWN_CHARACTERS],
            )
        )  # fmt: skip
        return "250 Taken; it is sent to nobody."

    def session(self) -> SMTP:
        """One connection."""
        return SMTP(self, data_size_limit=MOST_MESSAGE_BYTES, hostname="stand-in.example", ident="Hearth Keep stand-in")
