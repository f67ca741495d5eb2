"""Pairing a helper's phone: a code that works once and soon, and the devices that are signed in."""

from __future__ import annotations

import re
import secrets
import uuid
from datetime import datetime, timedelta

from sqlalchemy import delete, select

from yantai.core.rights import Right
from yantai.store import tables
from yantai.store.database import Database, enter_workspace
from yantai.work.accounts.addresses import code_picture, reach
from yantai.work.accounts.inputs import PairingInput
from yantai.work.accounts.sessions import hash_token, open_session
from yantai.work.accounts.views import DeviceView, PairingView
from yantai.work.common.errors import Collector, Missing, NotSignedIn
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn

CODE_LASTS = timedelta(minutes=10)
_LETTERS = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
"""Without those that are taken for one another."""
_LENGTH = 10
"""50 bits: within ten minutes, and with attempts counted, nobody guesses one."""


def start_pairing(
    database: Database, who: SignedIn, payload: PairingInput, lan_address: str, now: datetime
) -> PairingView:
    """Make a code that signs a helper's device in, with the rights it is given.

    Where the page that asks stands on this computer's own address, which no phone reaches, the code leads to
    `lan_address`; "" where the network is not served, which is told.

    Raises:
        Invalid: the helper has no name, may do nothing, or the address is none.
    """
    faults = Collector()
    helper = faults.text("/helper", payload.helper, what="who it is for")
    found = reach(payload.address, lan_address, faults)
    if not payload.rights:
        faults.add("/rights", "Say what this device may do: shop, or cook, weigh and fill.")
    faults.check()
    code = "".join(secrets.choice(_LETTERS) for _ in range(_LENGTH))
    shown = f"{code[:5]}-{code[5:]}"
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        session.execute(delete(tables.Pairing).where(tables.Pairing.expires_at < now))
        session.add(
            tables.Pairing(
                workspace_id=who.workspace_id,
                account_id=who.account_id,
                code_hash=hash_token(code),
                helper=helper,
                rights=sorted({right.value for right in payload.rights}),
                expires_at=now + CODE_LASTS,
            )
        )
        link = f"{found.address}/pair?code={code}"
        return keep(
            PairingView(
                code=shown,
                address=f"{found.address}/pair",
                picture=code_picture(link),
                helper=helper,
                expires_at=now + CODE_LASTS,
                is_out_of_reach=found.is_own,
            )
        )


def take_pairing(database: Database, code: str, device: str, now: datetime) -> str:
    """Sign a helper in by a code: the token of the session, which is not kept. The code is gone then.

    Raises:
        NotSignedIn: there is no such code, or its time is over.
    """
    plain = re.sub(r"[^0-9A-Za-z]", "", code).upper()
    with database.pairing(hash_token(plain)) as session:
        pairing = session.scalar(select(tables.Pairing))
        if pairing is None or pairing.expires_at <= now:
            raise NotSignedIn("This code does not work. Ask for a new one: each works once, for ten minutes.")
        enter_workspace(session, pairing.workspace_id)
        # Of two at once one takes it.
        taken = session.scalar(
            delete(tables.Pairing).where(tables.Pairing.id == pairing.id).returning(tables.Pairing.id)
        )
        if taken is None:
            raise NotSignedIn("This code was taken just now. Ask for a new one.")
        token, _ = open_session(
            session, pairing.workspace_id, pairing.account_id, now,
            helper=pairing.helper, rights=pairing.rights, device=device.strip()[:60], seen_at=now,
        )  # fmt: skip
    return token


def list_devices(database: Database, who: SignedIn, now: datetime) -> list[DeviceView]:
    """The browsers that are signed in, helpers' phones first, then what was seen last."""
    login, account = tables.LoginSession, tables.Account
    query = (
        select(login, account.name)
        .join(account, account.id == login.account_id)
        .where(login.expires_at > now)
        .order_by(login.helper.is_(None), login.seen_at.desc().nulls_last(), login.made_at.desc())
    )
    with database.reading(who.workspace_id) as session:
        return [
            DeviceView(
                id=row.id,
                name=row.helper or name,
                is_helper=row.helper is not None,
                rights=None if row.rights is None else [Right(right) for right in row.rights],
                device=row.device,
                made_at=row.made_at,
                seen_at=row.seen_at,
                is_own=secrets.compare_digest(row.csrf_token, who.csrf_token),
            )
            for row, name in session.execute(query)
        ]


def end_device(database: Database, who: SignedIn, session_id: uuid.UUID) -> None:
    """Sign a browser out.

    Raises:
        Missing: it is signed out already.
    """
    login = tables.LoginSession
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        gone = session.scalar(delete(login).where(login.id == session_id).returning(login.id))
        if gone is None:
            raise Missing("This device is signed out already.")
        keep(None)
