"""Scales and thermometers."""

from __future__ import annotations

import uuid

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from yantai.api.access import CookDep, CookSenderDep, DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.api.readings import ReadingStreams
from yantai.work.instruments import instruments
from yantai.work.instruments.inputs import InstrumentInput, PanInput
from yantai.work.instruments.views import InstrumentView, PanView, PortView

router = APIRouter(prefix="/instruments", tags=["instruments"])


def _streams(request: Request) -> ReadingStreams:
    streams: ReadingStreams = request.app.state.readings
    return streams


@router.get("")
def list_instruments(database: DatabaseDep, who: CookDep) -> list[InstrumentView]:
    """The scales and thermometers that are in use."""
    return instruments.list_instruments(database, who)


@router.get("/ports")
def list_serial_ports(who: SignedInDep) -> list[PortView]:
    """The serial ports that the computer which serves this has now."""
    return instruments.list_serial_ports()


@router.post("", status_code=201)
def add_instrument(payload: InstrumentInput, database: DatabaseDep, who: SenderDep) -> InstrumentView:
    """Register a scale or a thermometer."""
    return instruments.save_instrument(database, who, payload, None)


@router.put("/{instrument_id}")
def change_instrument(
    instrument_id: uuid.UUID, payload: InstrumentInput, database: DatabaseDep, who: SenderDep
) -> InstrumentView:
    """Change how a device is called, reached or read."""
    return instruments.save_instrument(database, who, payload, instrument_id)


@router.post("/{instrument_id}/put-away", status_code=204)
def put_instrument_away(instrument_id: uuid.UUID, database: DatabaseDep, who: SenderDep, now: NowDep) -> None:
    """Take a device off the list."""
    instruments.put_instrument_away(database, who, instrument_id, now)


@router.get("/{instrument_id}/readings", include_in_schema=False)
async def instrument_readings(
    instrument_id: uuid.UUID, request: Request, database: DatabaseDep, who: CookDep
) -> StreamingResponse:
    """Server-sent events: each reading of a device, from the last one on."""
    connection, settings = await run_in_threadpool(instruments.read_instrument, database, who, instrument_id)
    stream = _streams(request).stream(instrument_id, connection, settings)
    return StreamingResponse(stream, media_type="text/event-stream", headers={"Cache-Control": "no-store"})


@router.post("/{instrument_id}/tare", status_code=204)
def tare_instrument(instrument_id: uuid.UUID, request: Request, database: DatabaseDep, who: CookSenderDep) -> None:
    """Have a scale take what is on it off what it shows."""
    instruments.command(database, who, instrument_id, _streams(request).hub.tare)


@router.post("/{instrument_id}/zero", status_code=204)
def zero_instrument(instrument_id: uuid.UUID, request: Request, database: DatabaseDep, who: CookSenderDep) -> None:
    """Have a scale show nothing for its pan as it is."""
    instruments.command(database, who, instrument_id, _streams(request).hub.zero)


@router.get("/{instrument_id}/pan")
def read_pan(instrument_id: uuid.UUID, request: Request, database: DatabaseDep, who: CookDep) -> PanView:
    """What is on the pan of a simulated device."""
    return instruments.read_pan(database, who, _streams(request).hub, instrument_id)


@router.put("/{instrument_id}/pan")
def put_on_pan(
    instrument_id: uuid.UUID, payload: PanInput, request: Request, database: DatabaseDep, who: CookSenderDep
) -> PanView:
    """Change what is on the pan of a simulated device."""
    return instruments.put_on_pan(database, who, _streams(request).hub, instrument_id, payload)
