"""A message sent to an address that a person wrote down: to where that person may send,
within a time, and to nowhere else.
"""

from __future__ import annotations

import contextlib
import http.client
import ipaddress
import socket
import ssl
import threading
from collections.abc import Mapping
from urllib.parse import urlsplit

from django.conf import settings

from glenhail.server.common.errors import ActionError

TIMEOUT_S = 10.0  # for each step
DEADLINE_S = 20.0  # for all of them: one that answers letter by letter holds nobody
PORTS = {"http": 80, "https": 443}


class NotSent(Exception):
    """A message that did not get there; the text says why."""


def check_address(address: str) -> None:
    """Refuse what is no address of a program on the network.

    Raises
    ------
    ActionError
        If it is none.
    """
    try:
        parts = urlsplit(address)
        host, port = parts.hostname, parts.port
    except ValueError as error:
        raise ActionError(f"{address!r} is no address: {error}.") from error
    if parts.scheme not in PORTS or not host or parts.username or parts.fragment or port == 0:
        raise ActionError(f"{address!r}: an address begins with https:// or http:// and a host.")
    if not address.isascii() or any(c.isspace() or not c.isprintable() for c in address):
        raise ActionError(f"{address!r}: an address has no spaces, and no letters beyond ASCII.")


def send(address: str, headers: Mapping[str, str], body: bytes) -> int:
    """Send a message by POST; returns the status of the answer. Redirections are not
    followed.

    Raises
    ------
    NotSent
        If nobody answered, or the address is not one to send to.
    """
    parts = urlsplit(address)
    host, port = str(parts.hostname), parts.port or PORTS[parts.scheme]
    try:
        # Looked up once, and sent to what was looked at: a name may stand for another next.
        with contextlib.closing(_connected(_places(host, port))) as plain:
            ends = threading.Timer(DEADLINE_S, _end, [plain])
            ends.start()
            try:
                return _post(plain, address, host, port, headers, body)
            finally:
                ends.cancel()
    except (OSError, http.client.HTTPException) as error:
        words = getattr(error, "strerror", None) or str(error) or type(error).__name__
        raise NotSent(f"{host} gave no answer: {words}") from error


def _post(
    plain: socket.socket,
    address: str,
    host: str,
    port: int,
    headers: Mapping[str, str],
    body: bytes,
) -> int:
    parts = urlsplit(address)
    connection = http.client.HTTPConnection(host, port, timeout=TIMEOUT_S)
    if parts.scheme == "https":
        context = ssl.create_default_context()
        connection.sock = context.wrap_socket(plain, server_hostname=host)
        connection.default_port = PORTS["https"]
    else:
        connection.sock = plain
    try:
        target = (parts.path or "/") + (f"?{parts.query}" if parts.query else "")
        connection.request("POST", target, body, dict(headers))
        return connection.getresponse().status
    finally:
        connection.close()


def _connected(places: list[tuple[str, int]]) -> socket.socket:
    """To the first that takes it: a host may have one that leads nowhere from here."""
    for place in places[:-1]:
        with contextlib.suppress(OSError):
            return socket.create_connection(place, TIMEOUT_S)
    return socket.create_connection(places[-1], TIMEOUT_S)


def _places(host: str, port: int) -> list[tuple[str, int]]:
    found = socket.getaddrinfo(host, port, type=socket.SOCK_STREAM)
    for *_, place in found:
        number = ipaddress.ip_address(str(place[0]).split("%")[0])
        if isinstance(number, ipaddress.IPv6Address) and number.ipv4_mapped:
            number = number.ipv4_mapped
        nowhere = number.is_link_local or number.is_multicast or number.is_unspecified
        if nowhere or (number.is_loopback and not settings.HOOKS_LOCAL):
            raise NotSent(f"{host} is this machine, or no place on the network")
    return list(dict.fromkeys((str(place[0]), port) for *_, place in found))


def _end(plain: socket.socket) -> None:
    with contextlib.suppress(OSError):
        plain.shutdown(socket.SHUT_RDWR)
