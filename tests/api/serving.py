"""The application on a socket that outlives it, for tests that kill it; it imports little, to start quickly."""

from __future__ import annotations

import socket

import uvicorn

from yantai.api.app import create_app
from yantai.settings import Settings


def serve(listening: socket.socket, how: Settings) -> None:
    """Serve; what is asked while no server runs waits for the next."""
    uvicorn.Server(uvicorn.Config(create_app(how), log_level="critical")).run(sockets=[listening])
