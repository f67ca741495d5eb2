"""The log of the server and of its workers: one line of JSON for each event, with the request it belongs to.

What is typed, and whose it is, is never logged: ids and addresses are.
"""

from __future__ import annotations

import logging
import sys

import structlog
from structlog.stdlib import ProcessorFormatter
from structlog.typing import Processor

_SHARED: list[Processor] = [
    structlog.contextvars.merge_contextvars,
    structlog.stdlib.add_log_level,
    structlog.stdlib.add_logger_name,
    structlog.processors.TimeStamper(fmt="iso", utc=True),
    structlog.processors.format_exc_info,
]

# Events go through the standard library's loggers, so that they are heard, or not, like those of every package.
structlog.configure(
    processors=[structlog.stdlib.filter_by_level, *_SHARED, ProcessorFormatter.wrap_for_formatter],
    logger_factory=structlog.stdlib.LoggerFactory(),
    wrapper_class=structlog.stdlib.BoundLogger,
    cache_logger_on_first_use=True,
)


def get_logger(name: str) -> structlog.stdlib.BoundLogger:
    """The log of a module."""
    logger: structlog.stdlib.BoundLogger = structlog.stdlib.get_logger(name)
    return logger


def write() -> None:
    """Write the log of this process to standard error."""
    render: list[Processor] = [ProcessorFormatter.remove_processors_meta, structlog.processors.JSONRenderer()]
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(ProcessorFormatter(foreign_pre_chain=_SHARED, processors=render))
    logging.basicConfig(level=logging.INFO, handlers=[handler], force=True)


def request_id() -> str | None:
    """The id of the request that is answered now; None outside of one."""
    found = structlog.contextvars.get_contextvars().get("request")
    return None if found is None else str(found)
