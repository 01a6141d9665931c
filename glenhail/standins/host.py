"""A made-up publishing host: a plain web server of static files, which can do nothing
but hand them out.

``python -m glenhail.standins.host FOLDER [--port 8500]``
"""

from __future__ import annotations

import argparse
import functools
import sys
from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path


class _Quiet(SimpleHTTPRequestHandler):
    def log_message(self, format: str, *args: object) -> None:
        """Nothing: who reads what is nobody's business."""


def host(folder: Path, port: int = 0) -> ThreadingHTTPServer:
    """A server of a folder on this machine, not yet serving; port 0 is any free one."""
    handler = functools.partial(_Quiet, directory=str(folder))
    return ThreadingHTTPServer(("127.0.0.1", port), handler)


def main(arguments: list[str]) -> int:
    """Serve until it is stopped."""
    parser = argparse.ArgumentParser(prog="glenhail.standins.host")
    parser.add_argument("folder", type=Path)
    parser.add_argument("--port", type=int, default=8500)
    told = parser.parse_args(arguments)
    server = host(told.folder, told.port)
    print(f"http://127.0.0.1:{server.server_port}/")
    try:
        server.serve_forever()
    except KeyboardInterrupt:
        server.server_close()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
