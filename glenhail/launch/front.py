"""The server's front: takes requests in whole before a thread of the application gets
them.

A connection that sends slowly, or nothing, costs a socket and no thread; neither does
one that reads a file slowly, for waitress keeps both in one loop. What is written while
it is read (an edition's whole download) holds a thread, so that only a few of those are
let in at a time (`common/busy.py`). Several processes listen at one port, so that one
that computes does not keep the others waiting. (Tried before: threads that read for
themselves, of which two dozen half-sent requests held all.)
"""

from __future__ import annotations

import logging
import os
import socket
import sys
from typing import Any

import waitress

THREADS = 8
MOST_CONNECTIONS = 1000
IDLE = 30  # seconds without a byte after which a connection is closed
MOST_HEADER = 32_768  # bytes
MOST_BODY = 80_000_000  # a piece of an upload, or a form with a small file


def settings() -> dict[str, Any]:
    """What waitress is told.

    Behind a proxy that ends TLS, `GLENHAIL_PROXY` names its address, and its headers
    are believed.
    """
    told: dict[str, Any] = {
        "threads": THREADS,
        "connection_limit": MOST_CONNECTIONS,
        "channel_timeout": IDLE,
        "cleanup_interval": 5,
        "max_request_header_size": MOST_HEADER,
        "max_request_body_size": MOST_BODY,
        "asyncore_use_poll": True,
        "ident": None,
    }
    proxy = os.environ.get("GLENHAIL_PROXY")
    if proxy:
        told |= {
            "trusted_proxy": proxy,
            "trusted_proxy_headers": {"x-forwarded-for", "x-forwarded-proto", "x-forwarded-host"},
        }
        told |= {"clear_untrusted_proxy_headers": True, "log_untrusted_proxy_headers": True}
    return told


def listening(host: str, port: int) -> socket.socket:
    """A socket at a port that other processes of the same bench listen at as well."""
    made = socket.socket()
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    made.bind((host, port))
    made.listen(MOST_CONNECTIONS)
    made.setblocking(False)
    return made


def main(host: str, port: int) -> None:
    """Serve until told to stop."""
    logging.getLogger("waitress.queue").setLevel(
        logging.ERROR
    )  # that requests wait for a thread for a moment is no news
    from glenhail.server.wsgi import application

    waitress.serve(application, sockets=[listening(host, port)], **settings())


if __name__ == "__main__":
    main(sys.argv[1], int(sys.argv[2]))
