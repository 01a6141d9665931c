"""Messages that whoever gets them can check: a digest of the body, and a signature with
a secret that both know.

RFC 9530 (Digest Fields) and RFC 9421 (HTTP Message Signatures), section 3.3.3,
hmac-sha256.
"""

from __future__ import annotations

import base64
import hashlib
import hmac
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from urllib.parse import urlsplit

COVERED = ("@method", "@authority", "@path", "@query", "content-type", "content-digest")
LABEL = "bench"
OLDEST_S = 300  # a message that is older was kept, or its sender's clock is wrong
_INPUT = re.compile(r"(?:^|,\s*)bench=(\((?P<covered>[^)]*)\)(?P<rest>[^,]*))")
_SIGNATURE = re.compile(r"(?:^|,\s*)bench=:(?P<value>[A-Za-z0-9+/=]*):")
_CREATED = re.compile(r";created=(\d{1,12})(?:;|$)")


@dataclass(frozen=True)
class Message:
    """A request as it is sent: address whole, headers with names in small letters."""

    method: str
    address: str
    headers: Mapping[str, str]
    body: bytes


def content_digest(body: bytes) -> str:
    """The value of Content-Digest (RFC 9530).

    Parameters
    ----------
    body : bytes
        As it is sent.
    """
    return f"sha-256=:{base64.b64encode(hashlib.sha256(body).digest()).decode()}:"


def signed(message: Message, secret: bytes, created: int, key: str) -> dict[str, str]:
    """The headers that a message is sent with: its own, its digest and its signature.

    Parameters
    ----------
    message : Message
        What is sent; it has a content-type.
    secret : bytes
        That both know.
    created : int
        Now, seconds since 1970.
    key : str
        By which the one who gets it knows which secret it was.
    """
    headers = {**message.headers, "content-digest": content_digest(message.body)}
    covered = " ".join(f'"{name}"' for name in COVERED)
    told = f'({covered});created={created};keyid="{key}";alg="hmac-sha256"'
    whole = Message(message.method, message.address, headers, message.body)
    value = signature(signature_base(whole, COVERED, told), secret)
    return {
        **headers,
        "signature-input": f"{LABEL}={told}",
        "signature": f"{LABEL}=:{value}:",
    }


def signature_base(message: Message, covered: Sequence[str], told: str) -> bytes:
    """What is signed (RFC 9421, section 2.5).

    Parameters
    ----------
    message : Message
        With all headers that are covered.
    covered : sequence of str
        Components by name.
    told : str
        The signature's own parameters, as they stand in Signature-Input.
    """
    lines = [f'"{name}": {_component(message, name)}' for name in covered]
    return "\n".join([*lines, f'"@signature-params": {told}']).encode()


def signature(base: bytes, secret: bytes) -> str:
    """HMAC-SHA256 in base64.

    Parameters
    ----------
    base : bytes
        What is signed.
    secret : bytes
        That both know.
    """
    return base64.b64encode(hmac.new(secret, base, hashlib.sha256).digest()).decode()


def holds(message: Message, secret: bytes, now: int, oldest_s: int = OLDEST_S) -> bool:
    """Whether a message came from one who knows the secret, as it is, a moment ago.

    Parameters
    ----------
    message : Message
        As it came.
    secret : bytes
        That both know.
    now : int
        Seconds since 1970.
    oldest_s : int
        How old or how far ahead of this clock it may be.
    """
    told = _INPUT.search(message.headers.get("signature-input", ""))
    given = _SIGNATURE.search(message.headers.get("signature", ""))
    if told is None or given is None:
        return False
    created = _CREATED.search(told["rest"])
    covered = [name.strip('"') for name in told["covered"].split()]
    # One that leaves parts of a message out is none of ours.
    if created is None or covered != list(COVERED) or abs(now - int(created[1])) > oldest_s:
        return False
    if not hmac.compare_digest(
        message.headers.get("content-digest", ""), content_digest(message.body)
    ):
        return False
    wanted = signature(signature_base(message, covered, told[1]), secret)
    return hmac.compare_digest(wanted, given["value"])


def _component(message: Message, name: str) -> str:
    if not name.startswith("@"):
        return message.headers.get(name, "").strip()
    parts = urlsplit(message.address)
    port = "" if parts.port in (None, {"http": 80, "https": 443}.get(parts.scheme)) else parts.port
    return {
        "@method": message.method,
        "@authority": f"{parts.hostname}:{port}" if port else str(parts.hostname),
        "@path": parts.path or "/",
        "@query": f"?{parts.query}",
    }[name]
