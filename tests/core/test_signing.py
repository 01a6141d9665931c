"""Signed messages: held against the examples of the standards themselves."""

from __future__ import annotations

import base64
import unittest
from dataclasses import replace

from glenhail.core.automation.signing import (
    Message,
    content_digest,
    holds,
    signature,
    signature_base,
    signed,
)

NOW = 1_796_000_000
SECRET = b"between the bench and the build server"


class Standards(unittest.TestCase):
    def test_the_digest_is_that_of_rfc_9530(self) -> None:
        # RFC 9421, section 2.1 and RFC 9530, appendix B: of {"hello": "world"}.
        self.assertEqual(
            content_digest(b'{"hello": "world"}'),
            "sha-256=:X48E9qOokqqrvdts8nOJRJN3OWDUoyWxBf7kbu9DBPE=:",
        )

    def test_the_signature_is_that_of_rfc_9421(self) -> None:
        # RFC 9421, appendix B.2.5: signing a request using hmac-sha256.
        secret = base64.b64decode(
            "uzvJfB4u3N0Jy4T7NZ75MDVcr8zSTInedJtkgcu46YW4XByzNJjxBdtjUkdJPBtbmHhIDi6pcl8jsasjlTMtDQ=="
        )
        headers = {"date": "Tue, 20 Apr 2021 02:07:55 GMT", "content-type": "application/json"}
        message = Message("POST", "https://example.com/foo?param=Value&Pet=dog", headers, b"")
        covered = ("date", "@authority", "content-type")
        told = '("date" "@authority" "content-type");created=1618884473;keyid="test-shared-secret"'
        self.assertEqual(
            signature(signature_base(message, covered, told), secret),
            "pxcQw6G3AjtMBQjwo8XzkZf/bws5LelbaMk5rGIGtE8=",
        )

    def test_parts_of_an_address_are_named_as_in_rfc_9421(self) -> None:
        # Sections 2.2.3 to 2.2.7: a port that is the scheme's own is left out, an empty path is /.
        for address, authority, path, query in (
            (
                "https://www.example.com/path?param=value",
                "www.example.com",
                "/path",
                "?param=value",
            ),
            ("http://WWW.example.com:80", "www.example.com", "/", "?"),
            ("https://example.com:8443/a", "example.com:8443", "/a", "?"),
        ):
            base = signature_base(
                Message("POST", address, {}, b""), ("@authority", "@path", "@query"), "()"
            )
            with self.subTest(address):
                self.assertEqual(
                    base.decode().splitlines()[:3],
                    [f'"@authority": {authority}', f'"@path": {path}', f'"@query": {query}'],
                )


class Checked(unittest.TestCase):
    def setUp(self) -> None:
        own = {"content-type": "application/json"}
        sent = Message("POST", "https://build.example.org/in?x=1", own, b'{"event": "e"}')
        self.message = replace(sent, headers=signed(sent, SECRET, NOW, "hook-1"))

    def test_it_holds_as_it_was_sent_for_a_moment(self) -> None:
        for later, wanted in ((0, True), (299, True), (-299, True), (301, False), (-301, False)):
            with self.subTest(later):
                self.assertIs(holds(self.message, SECRET, NOW + later), wanted)

    def test_whatever_is_changed_on_its_way_is_seen(self) -> None:
        headers = dict(self.message.headers)
        fewer = 'bench=("@method");created=1796000000;keyid="hook-1";alg="hmac-sha256"'
        changed = {
            "another body": replace(self.message, body=b'{"event": "f"}'),
            "another path": replace(self.message, address="https://build.example.org/out?x=1"),
            "another query": replace(self.message, address="https://build.example.org/in?x=2"),
            "another host": replace(self.message, address="https://evil.example.org/in?x=1"),
            "another method": replace(self.message, method="PUT"),
            "another form": replace(self.message, headers={**headers, "content-type": "text/html"}),
            "a body with its digest": replace(
                self.message,
                body=b"{}",
                headers={**headers, "content-digest": content_digest(b"{}")},
            ),
            "made again later": replace(
                self.message,
                headers={
                    **headers,
                    "signature-input": headers["signature-input"].replace(
                        "1796000000", "1796000009"
                    ),
                },
            ),
            "fewer parts": replace(self.message, headers={**headers, "signature-input": fewer}),
            "no signature": replace(self.message, headers={**headers, "signature": ""}),
            "nothing": replace(self.message, headers={}),
        }
        for what, message in changed.items():
            with self.subTest(what):
                self.assertFalse(holds(message, SECRET, NOW))
        self.assertFalse(holds(self.message, b"another secret", NOW))
