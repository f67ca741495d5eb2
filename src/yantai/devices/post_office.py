"""A simulated post office: a mail server for this machine alone that delivers nothing and keeps what arrived.

It keeps messages in a Maildir, which any mail program reads. Deleting the folder deletes them.
"""

from __future__ import annotations

import mailbox
from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime
from email import policy
from email.message import EmailMessage
from email.parser import BytesParser
from email.utils import parsedate_to_datetime
from pathlib import Path

from aiosmtpd.controller import Controller
from aiosmtpd.handlers import Mailbox

LARGEST_MESSAGE = 2 * 1024 * 1024


@dataclass(frozen=True, kw_only=True)
class Arrived:
    """A message that arrived. `message_id` is that of who sent it, without the brackets."""

    message_id: str
    to: str
    sender: str
    subject: str
    body: str
    at: datetime | None


class PostOffice:
    """The server, on a port of the loopback address."""

    def __init__(self, folder: Path, port: int) -> None:
        # Its mailbox makes the folder itself, with all that belongs into it.
        folder.parent.mkdir(parents=True, exist_ok=True)
        self._controller = Controller(
            Mailbox(folder), hostname="127.0.0.1", port=port, data_size_limit=LARGEST_MESSAGE, ready_timeout=20
        )
        self._is_open = False

    @property
    def url(self) -> str:
        """Its address, as a mailer takes it."""
        return f"smtp://127.0.0.1:{self._controller.port}"

    def open(self) -> None:
        """Take messages from here on."""
        self._controller.start()
        self._is_open = True

    def close(self) -> None:
        """Take no more; one that is closed stays so."""
        if self._is_open:
            self._is_open = False
            self._controller.stop()


def arrived(folder: Path) -> list[Arrived]:
    """What arrived, the newest first."""
    if not folder.is_dir():
        return []
    box = mailbox.Maildir(folder, create=False)
    names = sorted((name for name in box.keys()), key=_when, reverse=True)  # noqa: SIM118 -- a mailbox, no mapping
    return [_read(box.get_bytes(name)) for name in names]


def remove(folder: Path, message_ids: Collection[str]) -> None:
    """Remove the messages of these names, should they have arrived."""
    if not folder.is_dir() or not message_ids:
        return
    box, wanted = mailbox.Maildir(folder, create=False), set(message_ids)
    for name in list(box.keys()):
        if _read(box.get_bytes(name)).message_id in wanted:
            box.remove(name)


def _when(name: str) -> tuple[float, str]:
    """A Maildir names messages by the second of their arrival and how many there were before."""
    head = name.split(".")[0]
    return float(head) if head.isdigit() else 0.0, name


def _read(content: bytes) -> Arrived:
    message = BytesParser(_class=EmailMessage, policy=policy.default).parsebytes(content)
    body = message.get_body(("plain",))
    date = message["Date"]
    return Arrived(
        message_id=str(message["Message-ID"] or "").strip("<> "),
        to=str(message["To"] or ""),
        sender=str(message["From"] or ""),
        subject=str(message["Subject"] or ""),
        body="" if body is None else str(body.get_content()),
        at=None if date is None else parsedate_to_datetime(str(date)),
    )
