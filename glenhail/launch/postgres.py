"""A private PostgreSQL cluster under var/, on loopback only."""

from __future__ import annotations

import os
import pwd
import shutil
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from hashlib import sha256
from pathlib import Path

import psycopg

from glenhail.launch import roles

PREFERRED_PORT = 54329


class NoDatabase(Exception):
    """The cluster can not be made or started; the text says why and what to do."""


class Cluster:
    """One cluster; as root it runs under Debian's postgres account, for the server
    refuses root.
    """

    def __init__(self, var: Path) -> None:
        self.account = "postgres" if os.geteuid() == 0 else None
        self.binaries = _binaries()
        self.home = self._home(var.resolve())
        self.data = self.home / "data"
        self.port = self._port()
        self.passwords = var.resolve() / "database-passwords"
        self.started_here = False

    def _home(self, var: Path) -> Path:
        """var/postgres, or a place the postgres account can reach if a folder above
        var/ is closed to it.
        """
        if self.account is None:
            return var / "postgres"
        var.mkdir(parents=True, exist_ok=True)
        reached = subprocess.run(
            ["runuser", "-u", self.account, "--", "test", "-x", str(var)], check=False
        )
        if reached.returncode == 0:
            return var / "postgres"
        name = f"glenhail-{sha256(str(var).encode()).hexdigest()[:12]}"
        return Path("/var/tmp") / name  # noqa: S108  (made from the path, and owned by postgres)

    def _port(self) -> int:
        """The port this cluster had, else the usual one or a free one;

        54329 may be another bench's.
        """
        kept = self.home / "port"
        return int(kept.read_text()) if kept.exists() else _free_port(PREFERRED_PORT)

    def _run(
        self, program: str, *arguments: str, check: bool = True
    ) -> subprocess.CompletedProcess[str]:
        command: Sequence[str] = [str(self.binaries / program), *arguments]
        if self.account:
            command = ["runuser", "-u", self.account, "--", *command]
        # A pipe would stay open in the server and be waited for; a file does not.
        with tempfile.TemporaryFile("w+") as said:
            done = subprocess.run(
                command,
                stdout=said,
                stderr=said,
                stdin=subprocess.DEVNULL,
                check=False,
                cwd="/",
                text=True,
            )
            said.seek(0)
            text = said.read()
        if check and done.returncode:
            raise NoDatabase(
                f"PostgreSQL's {program} failed:\n{text.strip()}\nThe server's own log is"
                f" {self.home / 'log'}."
            )
        return subprocess.CompletedProcess(command, done.returncode, text, "")

    def start(self) -> None:
        """Make the cluster if there is none, start it if it is not running, make the
        database.
        """
        if not (self.data / "PG_VERSION").exists():
            self._make()
        if not self.running():
            # Another bench may have taken this one's port while it was stopped.
            self.port = _free_port(self.port)
            (self.home / "port").write_text(str(self.port))
            self._launch()
            self.started_here = True
        self._secure()

    def _secure(self) -> None:
        """Roles and passwords; a cluster from before there were any is taken over."""
        known = roles.passwords(self.passwords)
        hba = self.data / "pg_hba.conf"
        try:
            if hba.read_text() != roles.HBA:
                if not (self.home / "made").exists():
                    roles.take_over(self.port, known)
                _write_as(hba, roles.HBA)
                self._run("pg_ctl", "reload", "-D", str(self.data))
            roles.set_up(self.port, known)
        except psycopg.Error as error:
            raise NoDatabase(
                f"The database does not let the launcher in: {error}\nIts passwords are in"
                f" {self.passwords}; they belong to this cluster and have to be kept with it."
            ) from error

    def adopt(self) -> None:
        """Stop it with this start: the one that began it was killed."""
        self.started_here = True

    def keep_up(self) -> None:
        """Start the server again if it died; for a watcher that asks often."""
        if _listens(self.port) or self.running():
            return
        print("PostgreSQL ended; starting it again", file=sys.stderr)
        try:
            self._launch()
        except NoDatabase as why:
            print(f"{why}\nIt is tried again.", file=sys.stderr)

    def running(self) -> bool:
        """Whether the server's process is there, ready or not."""
        return self._run("pg_ctl", "status", "-D", str(self.data), check=False).returncode == 0

    def _launch(self) -> None:
        options = (
            f"-p {self.port} -k {self.home} -c listen_addresses=127.0.0.1 -c shared_buffers=256MB"
        )
        self._run(
            "pg_ctl",
            "start",
            "-w",
            "-D",
            str(self.data),
            "-l",
            str(self.home / "log"),
            "-o",
            options,
        )

    def _make(self) -> None:
        self.home.mkdir(parents=True, exist_ok=True)
        if self.account:
            shutil.rmtree(self.data, ignore_errors=True)
            entry = pwd.getpwnam(self.account)
            os.chown(self.home, entry.pw_uid, entry.pw_gid)
        known = roles.passwords(self.passwords)
        with tempfile.NamedTemporaryFile("w", dir=self.home) as file:
            file.write(known.keeper)
            file.flush()
            if self.account:
                os.chown(file.name, pwd.getpwnam(self.account).pw_uid, -1)
            self._run(
                "initdb",
                "-D",
                str(self.data),
                "-U",
                roles.KEEPER,
                "--auth=scram-sha-256",
                f"--pwfile={file.name}",
                "-E",
                "UTF8",
                "--locale=C.UTF-8",
            )
        # Set apart from one that an earlier version made, which trusted everybody.
        (self.home / "made").touch()

    def stop(self) -> None:
        """Stop it, if it was started here."""
        if self.started_here:
            self._run("pg_ctl", "stop", "-m", "fast", "-w", "-D", str(self.data), check=False)
            self.started_here = False

    def environment(self, role: str = roles.APP) -> dict[str, str]:
        """What the server, or tests, need to find it."""
        password = getattr(roles.passwords(self.passwords), role)
        where = {"GLENHAIL_DB_HOST": "127.0.0.1", "GLENHAIL_DB_PORT": str(self.port)}
        return {**where, "GLENHAIL_DB_USER": role, "GLENHAIL_DB_PASSWORD": password}


def _write_as(path: Path, text: str) -> None:
    """Replace a file's text, whole or not at all, and leave it its owner and mode."""
    kept = path.stat()
    new = path.with_suffix(".new")
    new.write_text(text)
    os.chown(new, kept.st_uid, kept.st_gid)
    new.chmod(kept.st_mode)
    new.replace(path)


def _free_port(wanted: int) -> int:
    """That loopback port where it is free, else any."""
    for port in (wanted, 0):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)  # a port just left is free
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return int(probe.getsockname()[1])
    raise NoDatabase("No free port on the loopback address.")


def _binaries() -> Path:
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: int(p.parts[-3]))
    if found:
        return found[-1].parent
    plain = shutil.which("initdb")
    if plain:
        return Path(plain).parent
    raise NoDatabase("PostgreSQL is not installed: apt-get install postgresql.")


def _listens(port: int) -> bool:
    with socket.socket() as probe:
        probe.settimeout(0.5)
        return probe.connect_ex(("127.0.0.1", port)) == 0


def wait_for_port(port: int, seconds: float) -> bool:
    """Whether something listens on a loopback port within that time."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if _listens(port):
            return True
        time.sleep(0.1)
    return False
