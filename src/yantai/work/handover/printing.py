"""Labels on their way to the label printer: what was sent is kept, and waits while the printer is off."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta

from sqlalchemy import delete, select
from sqlalchemy.orm import Session, load_only

from yantai.devices.label_printer import LabelPrinter, PrinterOff, SimulatedLabelPrinter
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace
from yantai.work.handover.inputs import LabelsInput, PrinterInput
from yantai.work.handover.labels import set_batch_labels
from yantai.work.handover.views import PrinterView, PrintJobView

KEPT_FOR = timedelta(days=30)
"""What was printed is kept so long, to be looked at and printed again."""


def print_labels(
    database: Database, who: SignedIn, batch_id: uuid.UUID, wanted: LabelsInput, now: datetime
) -> PrintJobView:
    """Send the labels of a batch to the label printer.

    Raises:
        Missing: there is no such batch, or no such container in it.
        Invalid: there is no such sheet, it has no such cell, or there is nothing to print.
    """
    title, count, pdf = set_batch_labels(database, who, batch_id, wanted)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        old = tables.PrintJob.printed_at < now - KEPT_FOR
        session.execute(delete(tables.PrintJob).where(old))
        job = tables.PrintJob(
            workspace_id=who.workspace_id,
            batch_id=batch_id,
            title=title,
            labels=count,
            pdf=pdf,
            made_by=who.name,
            made_at=now,
        )
        session.add(job)
        _print(_printer(session), job, now)
        session.flush()
        return keep(_view(job))


def read_printer(database: Database, who: SignedIn) -> PrinterView:
    """The label printer, and what was sent to it, the newest first."""
    with database.reading(who.workspace_id) as session:
        return _printer_view(session)


def switch_printer(database: Database, who: SignedIn, payload: PrinterInput, now: datetime) -> PrinterView:
    """Switch the simulated label printer on or off; switched on, it prints what waited, the oldest first."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        read_workspace(session).printer_is_on = payload.is_on
        session.flush()
        printer, job = _printer(session), tables.PrintJob
        query = select(job).where(job.printed_at.is_(None)).order_by(job.number).with_for_update()
        for waiting in session.scalars(query):
            _print(printer, waiting, now)
        session.flush()
        return keep(_printer_view(session))


def read_job(database: Database, who: SignedIn, job_id: uuid.UUID) -> bytes:
    """What was sent, as it was.

    Raises:
        Missing: there is no such job.
    """
    with database.reading(who.workspace_id) as session:
        job = session.get(tables.PrintJob, job_id)
        if job is None:
            raise Missing("This was sent so long ago that it is gone. Print the labels of the batch anew.")
        return job.pdf


def _printer(session: Session) -> LabelPrinter:
    return SimulatedLabelPrinter(is_on=read_workspace(session).printer_is_on)


def _print(printer: LabelPrinter, job: tables.PrintJob, now: datetime) -> None:
    try:
        printer.take(job.pdf)
    except PrinterOff:
        # It waits, which the job says.
        job.printed_at = None
    else:
        job.printed_at = now


def _printer_view(session: Session) -> PrinterView:
    job = tables.PrintJob
    columns = load_only(job.batch_id, job.title, job.labels, job.made_by, job.made_at, job.printed_at)
    rows = session.scalars(select(job).options(columns).order_by(job.number.desc()).limit(100))
    return PrinterView(is_on=read_workspace(session).printer_is_on, jobs=[_view(row) for row in rows])


def _view(job: tables.PrintJob) -> PrintJobView:
    return PrintJobView(
        id=job.id,
        batch_id=job.batch_id,
        title=job.title,
        labels=job.labels,
        made_by=job.made_by,
        made_at=job.made_at,
        printed_at=job.printed_at,
    )
