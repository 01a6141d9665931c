"""Programs that misbehave: each comes to an end with a sentence that says why, and
leaves nothing running.
"""

from __future__ import annotations

import os
import re
import socket
import sys
import tempfile
import time
import unittest
import unittest.mock
import uuid
from pathlib import Path

import psutil

from glenhail.core.errors import BadRequest
from glenhail.core.execution.command import Command
from glenhail.core.execution.fence import Fence, why_open
from glenhail.core.execution.machine import SETTING, machine, size
from glenhail.core.execution.program import MARK, RunResult, run_program
from glenhail.core.treatments.step import Setting, Step
from tests.seeds import drawn


class Programs(unittest.TestCase):
    def setUp(self) -> None:
        temporary = tempfile.TemporaryDirectory()
        self.addCleanup(temporary.cleanup)
        self.folder, self.mark = Path(temporary.name), uuid.uuid4().hex

    fence: Fence | None = None

    def ran(
        self, script: str, seconds: float = 20, memory: float = 400, output: float = 5
    ) -> RunResult:
        for left_over in self.folder.iterdir():
            left_over.unlink()
        limits = Command("x", (), ".tif", seconds, memory, output)
        made = run_program(
            [sys.executable, "-c", script], self.folder, limits, self.mark, fence=self.fence
        )
        left = [
            p
            for p in psutil.process_iter(["environ"])
            if (p.info["environ"] or {}).get(MARK) == self.mark
        ]
        self.assertEqual(left, [])
        return made

    def test_each_kind_of_misbehaving_is_told(self) -> None:
        cases = {
            "hangs": (
                "import time; time.sleep(60)",
                {"seconds": 0.7},
                "did not end within 0.7 s .*waiting for an answer",
            ),
            "spins": (
                "while True: pass",
                {"seconds": 0.7},
                r"did not end within 0.7 s and was stopped\.$",
            ),
            "crashes": ("import os; os.abort()", {}, "signal 6: .*crash"),
            "fails": (
                "import sys; sys.exit('no licence found')",
                {},
                "exit code 1. Its last words: no licence found",
            ),
            "eats memory": (
                "x = bytearray(900_000_000)\nwhile True: pass",
                {},
                "more than 400 MB of memory",
            ),
            "writes one huge file": (
                "f=open('o','wb')\nwhile True: f.write(bytes(10**6))",
                {},
                "larger|signal 25|exit code 1",
            ),
            "writes many files": (
                "i=0\nwhile True:\n open(f'o{i}','wb').write(bytes(10**6)); i+=1",
                {"output": 30},
                "wrote more than 30 MB",
            ),
            "says too much": (
                "while True: print('x' * 10000)",
                {"output": 100},
                "said more than 4 MB",
            ),
            "prints binary junk": (
                "import sys,os; sys.stderr.buffer.write(bytes(range(256))*9); sys.exit(3)",
                {},
                "exit code 3",
            ),
            "needs input": ("input()", {}, "EOF"),
            "hides a child": (
                "import subprocess; subprocess.Popen(['sleep','60'], start_new_session=True)",
                {},
                "^$",
            ),
        }
        for name, (script, limits, words) in cases.items():
            with self.subTest(name):
                began = time.monotonic()
                ran = self.ran(script, **limits)  # type: ignore[arg-type]
                self.assertRegex(ran.trouble, words)
                self.assertLess(time.monotonic() - began, 15)
                self.assertNotRegex(ran.said, r"[\x00-\x08\x0b-\x1f]")

    def test_what_is_raised_while_it_runs_ends_it(self) -> None:
        class Stopped(Exception):
            pass

        def alive(seconds: float, told: object) -> None:
            if seconds > 0.2:
                raise Stopped

        with self.assertRaises(Stopped):
            run_program(["sleep", "60"], self.folder, Command("x", ()), self.mark, alive)
        self.assertEqual(
            [
                p
                for p in psutil.process_iter(["environ"])
                if (p.info["environ"] or {}).get(MARK) == self.mark
            ],
            [],
        )

    def test_a_known_sleep_and_known_work_are_timed_apart(self) -> None:
        ran = self.ran(
            "import time,json\nt=time.process_time()\nwhile time.process_time()-t<0.4: pass\n"
            "time.sleep(0.5)\nprint(json.dumps({'load_s':0.25,'process_s':1,'export_s':0.5}));"
            " print('{\"progress\": 0.5'); print('[1]')"
        )
        self.assertEqual(
            (ran.trouble, ran.told.load_s, ran.told.process_s, ran.told.export_s),
            ("", 0.25, 1, 0.5),
        )
        # At least what it slept and worked; how much more depends on what else the machine is
        # doing.
        self.assertTrue(0.9 <= ran.wall_s < 6, ran.wall_s)
        self.assertTrue(0.4 <= ran.cpu_s < 1.2, ran.cpu_s)
        self.assertGreater(ran.peak_mb, 4)

    def test_the_machine_is_described_or_named_by_whoever_runs_it(self) -> None:
        self.assertRegex(size(), r"^\d+ cores?, \d+ GiB, [A-Z][a-z]+$")
        for named, words in (
            (" Bench by\nthe window ", "^Bench by the window$"),
            ("", f", {re.escape(size())}$"),
        ):
            with self.subTest(named), unittest.mock.patch.dict(os.environ, {SETTING: named}):
                machine.cache_clear()
                self.addCleanup(machine.cache_clear)
                self.assertRegex(machine(), words)


@unittest.skipIf(why_open(), f"programs can not be shut in here: {why_open()}")
class ShutIn(Programs):
    """All of the above within a fence, and what it is for."""

    def setUp(self) -> None:
        super().setUp()
        self.bench = self.folder
        for name in ("run/step", "tools", "files/deep", "elsewhere"):
            (self.bench / name).mkdir(parents=True)
        for name in (
            "files/deep/secret",
            "database-passwords",
            "tools/tool",
            "elsewhere/other",
            "run/input.tif",
        ):
            (self.bench / name).write_text("words")
        self.folder = self.bench / "run" / "step"
        self.fence = self.fenced()

    def fenced(self, network: bool = False) -> Fence:
        # One of the hidden folders lies in another, one is not there.
        hidden = (self.bench / "files", self.bench, self.bench / "nowhere", Path("/var/tmp"))
        return Fence(self.bench / "run", self.bench / "tools", hidden, network)

    def said(self, script: str) -> list[str]:
        ran = self.ran(script)
        self.assertEqual(ran.trouble, "")
        return (self.folder / "said.out").read_text().split("\n")[:-1]

    def test_it_sees_its_own_folder_and_the_programs_and_nothing_else_of_the_bench(self) -> None:
        script = (
            f"import os\nfor at, _, names in os.walk({str(self.bench)!r}):\n for n in names:"
            " print(os.path.join(at, n))"
        )
        found = {str(Path(line).relative_to(self.bench)) for line in self.said(script)}
        self.assertEqual(
            found, {"run/input.tif", "run/step/said.out", "run/step/said.err", "tools/tool"}
        )
        self.assertEqual(self.said("import os; print(len(os.listdir('/var/tmp')))"), ["0"])

    def test_a_bench_without_a_directory_of_programs_shuts_in_as_well(self) -> None:
        self.fence = Fence(self.bench / "run", self.bench / "none", (self.bench,))
        self.assertEqual(
            self.said(f"import os; print(sorted(os.listdir({str(self.bench)!r})))"), ["['run']"]
        )
        self.fence = Fence(self.bench / "run", Path("/usr/bin"), (self.bench,))
        self.assertEqual(self.said("print(1)"), ["1"])

    def test_what_it_makes_stays_in_its_folder(self) -> None:
        script = f"""
import os
tools, files = "{self.bench}/tools", "{self.bench}/files"
for path in ("made.tif", "../other.tif", tools + "/tool", tools + "/new", files + "/lost"):
    try: open(path, "a").write("more"); print("wrote")
    except OSError as error: print(error.strerror)
"""
        self.assertEqual(
            self.said(script)[:4],
            ["wrote", "wrote", "Read-only file system", "Read-only file system"],
        )
        self.assertEqual((self.folder / "made.tif").read_text(), "more")
        self.assertEqual((self.bench / "tools" / "tool").read_text(), "words")
        self.assertFalse((self.bench / "files" / "lost").exists())
        self.assertEqual((self.folder / "made.tif").stat().st_uid, os.geteuid())

    def test_it_has_no_rights_left_to_undo_that_and_knows_of_nobody_to_end(self) -> None:
        script = f"""
import os
print(open("/proc/self/status").read().split("CapEff:")[1].split()[0].strip("0"))
quiet = " 2> /dev/null"
undone = "umount {self.bench}", "mount -t tmpfs none /mnt"
print(*(os.system(command + quiet) != 0 for command in undone))
print(max(int(n) for n in os.listdir("/proc") if n.isdigit()) < 40)
try: os.kill({os.getpid()}, 0); print("reached")
except OSError as error: print(error.strerror)
"""
        self.assertEqual(self.said(script), ["", "True True", "True", "No such process"])

    def test_the_network_is_off_unless_it_is_allowed(self) -> None:
        script = "import socket; print(sorted(n for _, n in socket.if_nameindex()))\n"
        with socket.create_server(("127.0.0.1", 0)) as server:
            reach = (
                f"try: socket.create_connection(('127.0.0.1', {server.getsockname()[1]}), 2);"
                " print('reached')\n"
            )
            reach += "except OSError: print('not reached')"
            for allowed, wanted in ((False, "not reached"), (True, "reached")):
                self.fence = self.fenced(allowed)
                said = self.said(script + reach)
                self.assertEqual(said[1], wanted)
                self.assertEqual(
                    said[0] == "['lo']", not allowed or len(socket.if_nameindex()) == 1
                )

    def test_a_fence_that_can_not_be_made_runs_nothing(self) -> None:
        self.fence = Fence(self.bench / "gone", self.bench / "tools", (self.bench,))
        ran = self.ran("open('made', 'w')")
        self.assertRegex(ran.trouble, "not run: it could not be shut in")
        self.assertFalse((self.folder / "made").exists())


class Templates(unittest.TestCase):
    """What a setting holds stays a value: no option, no way out of a folder, no second
    line.
    """

    def line(self, argument: str, value: str | float) -> list[str]:
        setting = Setting("model", value, "")
        command = Command("tool", ("{input}", argument, "{output}"))
        step = Step("Tool", "1", settings=(setting,))
        return command.line(Path("/tools/tool"), step, Path("/in/a.tif"), Path("/out/a.tif"))[2:-1]

    def test_values_are_handed_over_as_they_are(self) -> None:
        for argument, value, wanted in (
            ("{model}", "soft", "soft"),
            ("--model={model}", "-soft", "--model=-soft"),
            ("{model}", -5.0, "-5"),
            ("{model}", "denoise/low light", "denoise/low light"),
            ("models/{model}.bin", "v2..beta", "models/v2..beta.bin"),
            ("{model}", "$(reboot); `id` 'x' \"y\"", "$(reboot); `id` 'x' \"y\""),
        ):
            with self.subTest(argument, value=value):
                self.assertEqual(self.line(argument, value), [wanted])

    def test_what_would_be_more_than_a_value_is_refused(self) -> None:
        starts = ("-", "--", "+", "@", "-o=")
        ways_out = ("../", "..\\", "/", "\\\\", "~/", "C:\\", "a/../../", "a\\..\\")
        unseen = ("\0", "\n", "\r", "\x1b[2J", "\u202e", "\u2028")
        cases = [("{model}", s, "options") for s in starts] + [
            ("{model},9", s, "options") for s in starts
        ]
        cases += [
            (a, w, "elsewhere")
            for a in ("{model}", "models/{model}.bin", "--model={model}")
            for w in ways_out
        ]
        cases += [(a, "sub/", "elsewhere") for a in ("models/{model}.bin", "--model={model}")]
        cases += [(a, u, "can not be seen") for a in ("{model}", "--model={model}") for u in unseen]
        for label, rng in drawn(3):
            for argument, bad, words in cases:
                value = bad + "".join(chr(int(c)) for c in rng.integers(97, 123, 6))
                with (
                    self.subTest(f"{argument} {value!r}, {label}"),
                    self.assertRaisesRegex(BadRequest, words),
                ):
                    self.line(argument, value)
