"""Who asks by a link, without an account: the secret comes in a header, so that it stands in no address and no log."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated

from fastapi import Header, Request

from yantai.api.access import LinkLimit
from yantai.work.common.errors import Missing

LINK_HEADER = "X-Client-Link"
LinkToken = Annotated[str, Header(alias=LINK_HEADER, max_length=200)]


@contextmanager
def counted(request: Request) -> Iterator[None]:
    """Count links that are none against whoever asks by them.

    Raises:
        TooManyAttempts: there were too many of them.
        Missing: this is one.
    """
    limit: LinkLimit = request.app.state.link_limit
    host = request.client.host if request.client is not None else ""
    limit.check(host)
    try:
        yield
    except Missing:
        limit.count(host)
        raise
