"""What a person sets: the units in which they read."""

from __future__ import annotations

from contextlib import suppress

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts.inputs import PersonInput
from yantai.work.accounts.sessions import account_view
from yantai.work.accounts.views import AccountView
from yantai.work.common.receipts import MadeAlready, once
from yantai.work.common.who import SignedIn


def save_person(database: Database, who: SignedIn, payload: PersonInput) -> AccountView:
    """Set how figures are shown to the person who is signed in."""
    # The answer holds the page's token, which is not kept, so it is read anew.
    with suppress(MadeAlready), database.workspace(who.workspace_id) as session, once(session, who) as keep:
        account = session.get_one(tables.Account, who.account_id)
        account.mass_unit = payload.mass_unit
        account.temperature_unit = payload.temperature_unit
        account.energy_unit = payload.energy_unit
        keep(None)
    return account_view(database, who)
