"""The rules of the house are kept, and would be missed: each check is shown something
that breaks it.
"""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Callable, Iterator
from pathlib import Path
from unittest import mock

from glenhail.launch import house

LONG = "x" * 80


class House(unittest.TestCase):
    def broken(self, files: dict[str, str], check: Callable[[], Iterator[str]]) -> list[str]:
        """What a check says of a tree with just these files."""
        with tempfile.TemporaryDirectory() as folder:
            root = Path(folder)
            for name, text in files.items():
                path = root / name
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_text(text)
            with mock.patch.multiple(house, ROOT=root, PACKAGE=root / "glenhail"):
                return list(check())

    def test_this_code_keeps_them_all(self) -> None:
        self.assertEqual(house.main(), 0)

    def test_a_class_name_that_stands_twice_is_told_with_both_places(self) -> None:
        files = {
            "glenhail/core/a.py": "class Cell:\n    pass\n",
            "glenhail/core/sub/b.py": "class Cell:\n    pass\n\n\nclass _Own:\n    pass\n",
            "glenhail/core/c.py": "class _Own:\n    pass\n\n\nclass Command:\n    pass\n",
            "glenhail/core/d.py": "class Command:\n    pass\n",
        }
        said = self.broken(files, lambda: house.names_once("core"))
        self.assertEqual(
            said, ["class Cell stands in glenhail/core/a.py and in glenhail/core/sub/b.py"]
        )

    def test_core_and_server_may_each_have_a_name(self) -> None:
        files = {
            "glenhail/core/a.py": "class Treatment:\n    pass\n",
            "glenhail/server/b.py": "class Treatment:\n    pass\n",
        }
        for part in ("core", "server"):
            self.assertEqual(self.broken(files, lambda part=part: house.names_once(part)), [])

    def test_a_docstring_line_is_measured_without_its_closing_quotes(self) -> None:
        fits, over = f'"""{"x" * 85}"""\n', f'"""{"x" * 86}"""\n'
        self.assertEqual(self.broken({"glenhail/a.py": fits}, house.docstrings_fit), [])
        self.assertEqual(
            self.broken({"glenhail/a.py": over}, house.docstrings_fit),
            ["glenhail/a.py:1: docstring line too long"],
        )

    def test_a_long_line_within_a_docstring_is_told_by_its_number(self) -> None:
        text = f'def f() -> None:\n    """Short.\n\n    {LONG}{LONG}\n    """\n'
        self.assertEqual(
            self.broken({"glenhail/a.py": text}, house.docstrings_fit),
            ["glenhail/a.py:4: docstring line too long"],
        )

    def test_a_public_function_of_core_names_its_parameters(self) -> None:
        told = ("Parameters", "----------", "one, two : int", "    Whole.", "rest", "    More.")
        section = "".join(f"    {line}\n" for line in told)
        head = "def {}(one: int, two: int, *, rest: int) -> int:\n    {}A sum.\n\n{}    {}\n"
        quotes = '"""'
        whole = head.format("sum_of", quotes, section, quotes)
        cases = {
            whole: [],
            whole.replace("    rest\n", "    others\n"): ["rest"],
            head.format("sum_of", quotes, "", quotes): ["one, two, rest"],
            head.format("_sum_of", quotes, "", quotes): [],
            'def now() -> int:\n    """The time."""\n': [],
        }
        for text, missing in cases.items():
            with self.subTest(text):
                said = self.broken({"glenhail/core/a.py": text}, house.parameters_told)
                wanted = [f"glenhail/core/a.py:1: sum_of says nothing of {m}" for m in missing]
                self.assertEqual(said, wanted)
        # Of the server nothing is asked.
        text = head.format("sum_of", quotes, "", quotes)
        self.assertEqual(self.broken({"glenhail/server/a.py": text}, house.parameters_told), [])

    def test_a_path_of_a_stored_file_is_asked_of_the_store_alone(self) -> None:
        text = "from x import default_storage\nplace = default_storage.path('a')\n"
        for where, count in (("studies/x.py", 1), ("storage/x.py", 0)):
            files = {f"glenhail/server/{where}": text}
            self.assertEqual(len(self.broken(files, house.files_by_the_store)), count, where)

    def test_a_view_that_asks_the_database_and_a_finder_outside_of_queries_are_told(self) -> None:
        asks = "rows = Frame.objects.filter(bench=bench)\n"
        finder = "def find_frame(pk: int) -> Frame:\n    ...\n"
        for where, text, count in (
            ("material/api/views.py", asks, 1),
            ("material/queries.py", asks, 0),
            ("material/actions/frames.py", asks, 0),
            ("material/api/views.py", finder, 1),
            ("material/actions/frames.py", finder, 1),
            ("material/queries.py", finder, 0),
            ("material/api/views.py", "frame = find_frame(pk)\n", 0),
        ):
            with self.subTest(where, text=text):
                files = {f"glenhail/server/{where}": text}
                self.assertEqual(len(self.broken(files, house.views_ask_queries)), count)

    def test_a_migration_that_leans_on_this_code_is_told(self) -> None:
        name = "glenhail/server/studies/migrations/0002_x.py"
        for text, count in (
            ("from glenhail.core.picture import Rect\n", 1),
            ("import glenhail.server.settings\n", 1),
            ("from django.db import migrations\n", 0),
        ):
            said = self.broken({name: text}, house.migrations_stand_alone)
            self.assertEqual(len(said), count, text)

    def test_help_that_leads_nowhere_is_told(self) -> None:
        files = {
            "web/src/help/terms.ts": 'chapter: "frames"\nchapter: "moon"\n',
            "docs/guide/2-frames.md": "# Frames\n",
        }
        self.assertEqual(
            self.broken(files, house.lines_of_the_guide_exist),
            ["docs/guide has no chapter moon, which the help leads to"],
        )
