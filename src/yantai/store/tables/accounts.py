"""Who may sign in, who has, and what they sent."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import CheckConstraint, Index, Text, func, text
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Mapped, mapped_column

from yantai.core.rights import Right
from yantai.core.speaking import EnergyUnit, MassUnit, TemperatureUnit
from yantai.store.tables.base import Owned, one_of, owned_table_args, within, word


class Account(Owned):
    """Someone who signs in."""

    __tablename__ = "account"
    __table_args__ = owned_table_args(
        one_of("mass_unit", MassUnit),
        one_of("temperature_unit", TemperatureUnit),
        one_of("energy_unit", EnergyUnit),
    )

    email: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    password_hash: Mapped[str]
    mass_unit: Mapped[MassUnit] = word(MassUnit, default="g")
    temperature_unit: Mapped[TemperatureUnit] = word(TemperatureUnit, default="C")
    energy_unit: Mapped[EnergyUnit] = word(EnergyUnit, default="kcal")


_RIGHTS = ", ".join(f"'{right.value}'" for right in Right)


class LoginSession(Owned):
    """A signed-in browser. Only the hash of its token is kept.

    A `helper` acts under a name of their own, with the account that paired their phone behind it, and may do no more
    than `rights` say; without them it is the account itself, which may do everything.
    """

    __tablename__ = "login_session"
    __table_args__ = owned_table_args(
        within("account_id", "account"),
        CheckConstraint("(helper IS NULL) = (rights IS NULL)", name="helper"),
        CheckConstraint(f"rights <@ ARRAY[{_RIGHTS}]", name="rights"),
    )

    account_id: Mapped[uuid.UUID]
    token_hash: Mapped[str] = mapped_column(unique=True)
    csrf_token: Mapped[str]
    expires_at: Mapped[datetime]
    helper: Mapped[str | None]
    rights: Mapped[list[str] | None] = mapped_column(ARRAY(Text))
    device: Mapped[str] = mapped_column(server_default="")
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
    seen_at: Mapped[datetime | None]


class Pairing(Owned):
    """A code that signs a helper's phone in, once and soon. Only its hash is kept; it is gone when it was taken."""

    __tablename__ = "pairing"
    __table_args__ = owned_table_args(
        within("account_id", "account"), CheckConstraint(f"rights <@ ARRAY[{_RIGHTS}]", name="rights")
    )

    account_id: Mapped[uuid.UUID]
    code_hash: Mapped[str] = mapped_column(unique=True)
    helper: Mapped[str]
    rights: Mapped[list[str]]
    expires_at: Mapped[datetime]


class Receipt(Owned):
    """What was sent with an id and made. The id follows from that one, and `digest` from all that was sent.

    `answer` is what was answered, as JSON, for as long as the same may sensibly be asked again.
    """

    __tablename__ = "receipt"
    __table_args__ = owned_table_args(Index(None, "made_at", postgresql_where=text("answer IS NOT NULL")))

    digest: Mapped[str]
    answer: Mapped[Any | None] = mapped_column(JSONB)
    made_at: Mapped[datetime] = mapped_column(server_default=func.now())
