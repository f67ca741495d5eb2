"""The scales and thermometers of a kitchen."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import datetime

from serial.tools import list_ports
from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.devices.device import Connection, Settings
from yantai.devices.hub import DeviceHub
from yantai.devices.simulated import Pan
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.instruments.inputs import InstrumentInput, PanInput
from yantai.work.instruments.views import InstrumentView, PanView, PortView

_FIELDS = ("name", "kind", "connection", "talk", "port", "baud", "silent_unit", "capacity_g", "step_g")


def list_instruments(database: Database, who: SignedIn) -> list[InstrumentView]:
    """Those that are in use, by name."""
    instrument = tables.Instrument
    query = select(instrument).where(instrument.put_away_at.is_(None)).order_by(instrument.name, instrument.id)
    with database.reading(who.workspace_id) as session:
        return [_view(row) for row in session.scalars(query)]


def list_serial_ports() -> list[PortView]:
    """The serial ports that this computer has now."""
    return [PortView(path=port.device, says=port.description) for port in sorted(list_ports.comports())]


def save_instrument(
    database: Database, who: SignedIn, payload: InstrumentInput, instrument_id: uuid.UUID | None
) -> InstrumentView:
    """Register a device, or change one.

    Raises:
        Missing: there is no such device.
        Invalid: it is on a serial line that is not named.
    """
    if payload.connection is Connection.SERIAL and not payload.port:
        raise Invalid.at("/port", "Say which port it is plugged into, as /dev/ttyUSB0.")
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = (
            tables.Instrument(workspace_id=who.workspace_id) if instrument_id is None else _row(session, instrument_id)
        )
        for field in _FIELDS:
            setattr(row, field, getattr(payload, field))
        session.add(row)
        session.flush()
        return keep(_view(row))


def put_instrument_away(database: Database, who: SignedIn, instrument_id: uuid.UUID, now: datetime) -> None:
    """Take a device off the list.

    Raises:
        Missing: there is no such device.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _row(session, instrument_id).put_away_at = now
        keep(None)


def read_instrument(database: Database, who: SignedIn, instrument_id: uuid.UUID) -> tuple[Connection, Settings]:
    """How a device is reached.

    Raises:
        Missing: there is no such device.
    """
    with database.reading(who.workspace_id) as session:
        row = _row(session, instrument_id)
        return row.connection, _settings(row)


def command(database: Database, who: SignedIn, instrument_id: uuid.UUID, do: Callable[[uuid.UUID], bool]) -> None:
    """Have a device do something, as a tare.

    Raises:
        Missing: there is no such device.
        Invalid: nobody looks at it, so it is not open.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _row(session, instrument_id)
        if not do(row.id):
            raise Invalid.at("/instrument", f"“{row.name}” is not open: choose it on this tablet first.")
        keep(None)


def put_on_pan(
    database: Database, who: SignedIn, hub: DeviceHub, instrument_id: uuid.UUID, payload: PanInput
) -> PanView:
    """Change what is on the pan of a simulated device.

    Raises:
        Missing: there is no such device.
        Invalid: it is a real one.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _simulated(session, instrument_id)
        hub.put(instrument_id, _settings(row), Pan(**payload.model_dump()))
        return keep(_pan(hub.pan(instrument_id, _settings(row))))


def read_pan(database: Database, who: SignedIn, hub: DeviceHub, instrument_id: uuid.UUID) -> PanView:
    """What is on the pan of a simulated device.

    Raises:
        Missing: there is no such device.
        Invalid: it is a real one.
    """
    with database.reading(who.workspace_id) as session:
        return _pan(hub.pan(instrument_id, _settings(_simulated(session, instrument_id))))


def _row(session: Session, instrument_id: uuid.UUID) -> tables.Instrument:
    row = session.scalar(select(tables.Instrument).where(tables.Instrument.id == instrument_id))
    if row is None:
        raise Missing("There is no such device. It may have been removed in another window.")
    return row


def _simulated(session: Session, instrument_id: uuid.UUID) -> tables.Instrument:
    row = _row(session, instrument_id)
    if row.connection is not Connection.SIMULATED:
        raise Invalid.at("/connection", f"“{row.name}” is a real device: put things on it by hand.")
    return row


def _settings(row: tables.Instrument) -> Settings:
    return Settings(
        kind=row.kind,
        talk=row.talk,
        capacity_g=row.capacity_g,
        step_g=row.step_g,
        silent_unit=row.silent_unit,
        port=row.port,
        baud=row.baud,
    )


def _view(row: tables.Instrument) -> InstrumentView:
    return InstrumentView(id=row.id, **{field: getattr(row, field) for field in _FIELDS})


def _pan(pan: Pan) -> PanView:
    return PanView(**{field: getattr(pan, field) for field in PanInput.model_fields})
