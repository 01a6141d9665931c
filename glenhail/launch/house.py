"""Rules of this code that no linter knows: ``python -m glenhail.launch.house``."""

from __future__ import annotations

import ast
import re
import sys
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
PACKAGE = ROOT / "glenhail"
DOCSTRING = 88
QUOTES = '"""'  # at the end of a short one they do not count
# Django finds these by their names.
FRAMEWORK = {"Command", "Meta"}
STORES = re.compile(r"default_storage\.path\(|\bFileSystemStorage\b")


def sources(folder: Path) -> Iterator[tuple[Path, str]]:
    """Every source below a folder but migrations, with its text."""
    for path in sorted(folder.rglob("*.py")):
        if "migrations" not in path.parts:
            yield path, path.read_text()


def names_once(part: str) -> Iterator[str]:
    """One word, one thing: no public class of core, or of server, has another's name."""
    found: dict[str, list[str]] = defaultdict(list)
    for path, text in sources(PACKAGE / part):
        for node in ast.parse(text).body:
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                found[node.name].append(str(path.relative_to(ROOT)))
    for name, places in found.items():
        if len(places) > 1 and name not in FRAMEWORK:
            yield f"class {name} stands in {' and in '.join(places)}"


def docstrings_fit() -> Iterator[str]:
    """Docstrings are prose: lines of at most 88 columns."""
    for path, text in sources(PACKAGE):
        lines = text.splitlines()
        for node in ast.walk(ast.parse(text)):
            if not isinstance(node, ast.Expr) or not isinstance(node.value, ast.Constant):
                continue
            if isinstance(node.value.value, str) and node.end_lineno:
                for number in range(node.lineno, node.end_lineno + 1):
                    if len(lines[number - 1].removesuffix(QUOTES)) > DOCSTRING:
                        yield f"{path.relative_to(ROOT)}:{number}: docstring line too long"


def parameters_told() -> Iterator[str]:
    """Each public function of core names each of its parameters (numpydoc)."""
    for path, text in sources(PACKAGE / "core"):
        for node in ast.parse(text).body:
            if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                continue
            told = (ast.get_docstring(node) or "").partition("Parameters\n----------\n")[2]
            names = {
                n for line in re.findall(r"(?m)^(\S.*?)(?: :.*)?$", told) for n in line.split(", ")
            }
            every = [*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs]
            untold = [a.arg for a in every if a.arg not in names]
            if untold:
                place = f"{path.relative_to(ROOT)}:{node.lineno}"
                yield f"{place}: {node.name} says nothing of {', '.join(untold)}"


def files_by_the_store() -> Iterator[str]:
    """Files are opened through `storage` alone, so that another store can take over."""
    for path, text in sources(PACKAGE / "server"):
        if path.parent.name != "storage" and path.name != "settings.py" and STORES.search(text):
            yield f"{path.relative_to(ROOT)} reaches past glenhail.server.storage"


def views_ask_queries() -> Iterator[str]:
    """A view never touches the ORM, and what finds rows for views is in queries."""
    for path, text in sources(PACKAGE / "server"):
        if "api" in path.parts and re.search(r"\.objects\b|_default_manager", text):
            yield f"{path.relative_to(ROOT)}: a view asks the database; its app's queries do"
        if {"api", "actions"} & set(path.parts) and re.search(r"(?m)^def find_", text):
            yield f"{path.relative_to(ROOT)}: what finds rows belongs in its app's queries"


def migrations_stand_alone() -> Iterator[str]:
    """What a migration did must not change when the core does."""
    for path in sorted(PACKAGE.rglob("migrations/*.py")):
        if re.search(r"\bglenhail\.(core|server)\b", path.read_text()):
            yield f"{path.relative_to(ROOT)} imports from this code"


def lines_of_the_guide_exist() -> Iterator[str]:
    """Each page's help leads to a chapter of the guide that there is."""
    terms = (ROOT / "web/src/help/terms.ts").read_text()
    chapters = {re.sub(r"^\d+-", "", p.stem) for p in (ROOT / "docs/guide").glob("*.md")}
    for chapter in sorted(set(re.findall(r'chapter: "([^"]+)"', terms)) - chapters):
        yield f"docs/guide has no chapter {chapter}, which the help leads to"


def main() -> int:
    """Print what breaks a rule; how many do."""
    broken = [
        *names_once("core"),
        *names_once("server"),
        *docstrings_fit(),
        *parameters_told(),
        *files_by_the_store(),
        *views_ask_queries(),
        *migrations_stand_alone(),
        *lines_of_the_guide_exist(),
    ]
    for words in broken:
        print(words)
    return min(len(broken), 1)


if __name__ == "__main__":
    sys.exit(main())
