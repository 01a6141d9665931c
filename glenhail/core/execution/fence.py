"""Shutting a program in: it sees none of the bench's files but its own folder, no other
process, and no network.

Made of Linux namespaces, which an ordinary account may have where the machine allows
it; `why_open` says where it does not. Within them the program's folder and the allowed
programs are put back over empty folders, and all rights to change that are given up
before it begins.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

SETUP = r"""
set -e
exec {said}>&2 2>/dev/null
run=$1 programs=$2 here=$3 begun=$4 user=$5 group=$6; shift 6
exec {kept}<"$run"
[ ! -d "$programs" ] || exec {tools}<"$programs"
while [ "$1" != -- ]; do mount -t tmpfs -o mode=755 none "$1"; shift; done; shift
mkdir -p "$run"
mount -c --bind "/proc/self/fd/$kept" "$run"
exec {kept}<&-
if [ -n "$tools" ]; then
  mkdir -p "$programs"
  mount -c --bind "/proc/self/fd/$tools" "$programs"
  mount -o remount,bind,ro "$programs"
  exec {tools}<&-
fi
cd "$here"
set +e
echo >&$begun
exec {begun}>&-
unshare --user --map-user="$user" --map-group="$group" -- \
  setpriv --no-new-privs --bounding-set=-all --inh-caps=-all -- "$@" \
  2>&$said {said}>&-
exit $?
"""


@dataclass(frozen=True)
class Fence:
    """What a program is shut in by.

    Attributes
    ----------
    run : Path
        The one folder that it may write to.
    programs : Path
        The directory of allowed programs, to be read; a bench may have none yet.
    hidden : tuple of Path
        Folders that are empty for it.
    network : bool
        Whether it may use the network.
    """

    run: Path
    programs: Path
    hidden: tuple[Path, ...]
    network: bool = False

    def around(self, line: Sequence[str], folder: Path, begun: int) -> list[str]:
        """A command line within the fence; it writes a line to the descriptor `begun`
        when the program begins, and closes it.
        """
        network = [] if self.network else ["--net"]
        spaces = [
            "--user",
            "--map-root-user",
            "--mount",
            "--pid",
            "--fork",
            "--kill-child=KILL",
            "--mount-proc",
            "--ipc",
            *network,
        ]
        told = [
            self.run,
            self.programs,
            folder,
            begun,
            os.geteuid(),
            os.getegid(),
            *self.outermost(),
        ]
        return [
            "unshare",
            *spaces,
            "--",
            "bash",
            "--norc",
            "--noprofile",
            "-c",
            SETUP,
            "fence",
            *map(str, told),
            "--",
            *line,
        ]

    def outermost(self) -> list[Path]:
        """The hidden folders that there are, without those that lie in others."""
        there = sorted({p.resolve() for p in self.hidden if p.is_dir()})
        return [p for p in there if not any(p.is_relative_to(q) for q in there if q != p)]


@cache
def why_open() -> str:
    """Why programs can not be shut in on this machine, as a clause; empty where they
    can. Tried once.
    """
    with tempfile.TemporaryDirectory() as folder:
        room = Path(folder)
        for name in ("run", "programs", "hidden"):
            (room / name).mkdir()
        (room / "hidden" / "secret").touch()
        fence = Fence(room / "run", room / "programs", (room / "hidden",))
        read, write = os.pipe()
        try:
            look = ["test", "!", "-e", str(room / "hidden" / "secret")]
            done = subprocess.run(
                fence.around(look, room / "run", write),
                pass_fds=[write],
                capture_output=True,
                timeout=20,
                check=False,
            )
        except (OSError, subprocess.TimeoutExpired) as error:
            return f"namespaces can not be had here ({error})"
        finally:
            os.close(write)
            os.close(read)
    said = done.stderr.decode(errors="replace").strip().splitlines()
    return (
        ""
        if done.returncode == 0
        else f"namespaces can not be had here ({said[-1] if said else f'code {done.returncode}'})"
    )
