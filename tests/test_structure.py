"""The house rules of the code: sizes, docstrings, sources, and that the committed schema copies agree."""

import ast
import re
import subprocess
from pathlib import Path

from engine import constants
from engine.houserules.rules import RULES

ROOT = Path(__file__).parent.parent
LONGEST_FUNCTION, LONGEST_MODULE, DEEPEST_CLASS = 80, 500, 2
OURS = [
    p
    for top in ("engine", "plant", "web", "launch", "benchmarks")
    for p in (ROOT / top).rglob("*.py")
    if "migrations" not in p.parts
]
TREES = {path: ast.parse(path.read_text()) for path in OURS}
FUNCTIONS = [
    (path, node)
    for path, tree in TREES.items()
    for node in ast.walk(tree)
    if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef)
]


def length(node):
    """Lines of code of a function, without its docstring."""
    documented = node.body[0].end_lineno - node.body[0].lineno + 1 if ast.get_docstring(node) else 0
    return node.end_lineno - node.lineno + 1 - documented


def test_functions_and_modules_stay_small(capsys):
    lengths = sorted(length(node) for _, node in FUNCTIONS)
    modules = sorted(len(path.read_text().splitlines()) for path in OURS)
    with capsys.disabled():
        middle, most = lengths[len(lengths) // 2], lengths[int(0.95 * len(lengths))]
        print(f"\nfunctions: median {middle}, p95 {most}, longest {lengths[-1]} lines; ", end="")
        print(f"modules: p95 {modules[int(0.95 * len(modules))]}, longest {modules[-1]}")
    assert [f"{p.name}:{n.name}" for p, n in FUNCTIONS if length(n) > LONGEST_FUNCTION] == []
    assert modules[-1] <= LONGEST_MODULE


def test_engine_says_what_everything_is():
    silent = [
        f"{path.relative_to(ROOT)}:{node.name}"
        for path, tree in TREES.items()
        if "engine" in path.relative_to(ROOT).parts
        for node in tree.body
        if isinstance(node, ast.FunctionDef | ast.ClassDef)
        and not node.name.startswith("_")
        and not any(getattr(mark, "id", "") == "overload" for mark in node.decorator_list)
        and not ast.get_docstring(node)
    ]
    assert silent == [] and all(ast.get_docstring(tree) for tree in TREES.values() if tree.body)


def test_every_constant_and_house_rule_names_its_source():
    found = [value for value in vars(constants).values() if isinstance(value, constants.Constant)]
    assert len(found) > 15 and all(constant.source and constant.name for constant in found)
    assert all(rule.reason for rule in RULES)
    for table in (ROOT / "engine" / "data").rglob("*.csv"):
        assert table.read_text().startswith("#") and "Source:" in table.read_text()[:400], (
            f"{table.name} names its source first"
        )


def test_no_star_imports_no_utils_no_inner_imports():
    for path, tree in TREES.items():
        assert path.stem not in ("utils", "helpers", "misc")
        for node in ast.walk(tree):
            if isinstance(node, ast.ImportFrom) and node.names[0].name == "*":
                assert "settings" in path.parts, path


def test_class_depth():
    parents = {
        node.name: [b.id for b in node.bases if isinstance(b, ast.Name)]
        for tree in TREES.values()
        for node in ast.walk(tree)
        if isinstance(node, ast.ClassDef)
    }

    def depth(name):
        return 1 + max((depth(base) for base in parents[name] if base in parents), default=0)

    assert {name for name in parents if depth(name) > DEEPEST_CLASS} <= {"BundleError"}, "errors may be a family"


def test_lock_files_are_pinned_hashed_and_name_no_index():
    for lock in (ROOT / "requirements").glob("*.lock"):
        lines = lock.read_text().splitlines()
        assert not any("index" in line or "find-links" in line for line in lines)
        pinned = [line for line in lines if line and not line.startswith((" ", "#"))]
        assert pinned and all("==" in line and line.endswith("\\") for line in pinned)
    assert '"resolved"' not in (ROOT / "package-lock.json").read_text()


def test_secrets_and_data_stay_out_of_git():
    for path in (".ruddy/demo/secrets.env", ".venv/bin/python", "node_modules/x"):
        assert subprocess.run(["git", "check-ignore", "-q", path], cwd=ROOT).returncode == 0, path


def test_each_promise_in_the_security_list_names_a_test_that_exists():
    named, file = [], ""
    for path, test in re.findall(r"`(tests/[\w/]+\.py)?::(\w+)`", (ROOT / "docs" / "security.md").read_text()):
        file = path or file
        named.append((file, test))
    assert len(named) > 40
    missing = [(file, test) for file, test in named if f"def {test}(" not in (ROOT / file).read_text()]
    assert missing == []
