"""Compares the findings of scan_python.cpp with Python's own ast module; see bench/python-scan."""

import ast
import sys
import warnings
from collections import Counter

warnings.simplefilter("ignore")


def chain_of(node):
    parts = []
    while isinstance(node, ast.Attribute):
        parts.append(node.attr)
        node = node.value
    if not isinstance(node, ast.Name):
        return None
    parts.append(node.id)
    return node, ".".join(reversed(parts))


def expected(source):
    tree = ast.parse(source)
    lines = [0]
    for line in source.split(b"\n"):
        lines.append(lines[-1] + len(line) + 1)

    def offset(node):
        return lines[node.lineno - 1] + node.col_offset

    imports, chains, strings, inside = [], [], set(), Counter()

    def visit(node, in_format):
        if isinstance(node, (ast.Import, ast.ImportFrom)):
            is_from = isinstance(node, ast.ImportFrom)
            names = "".join(
                "|%s as %s" % (a.name, a.asname or a.name.split(".")[0]) for a in node.names
            )
            imports.append(
                "%d %d %d %s%s"
                % (offset(node), is_from, node.level if is_from else 0, (node.module or "") if is_from else "", names)
            )
        if isinstance(node, ast.Attribute):
            found = chain_of(node)
            if found:
                name, text = found
                if in_format:
                    inside[text] += 1
                    return
                # Where blanks or line ends part the names, the part before them is what the scanner takes.
                written = text.encode()
                while written and not source.startswith(written, offset(name)):
                    written = written[:written.rfind(b".")] if b"." in written else b""
                if b"." in written:
                    chains.append("%d %s" % (offset(name), written.decode()))
                return
        if isinstance(node, (ast.Constant, ast.JoinedStr)) and not in_format:
            if isinstance(node, ast.JoinedStr) or isinstance(node.value, (str, bytes)):
                strings.add(offset(node))
        in_format = in_format or isinstance(node, ast.JoinedStr)
        for child in ast.iter_child_nodes(node):
            visit(child, in_format)

    visit(tree, False)
    return sorted(imports), sorted(chains), sorted(strings), inside


def main():
    compared = differing = skipped = 0
    totals = Counter()
    sys.setrecursionlimit(100000)
    text = open(sys.argv[1], "rb").read()
    for block in text.split(b"\nF ") if text else []:
        if block.startswith(b"F "):
            block = block[2:]
        rows = block.split(b"\n")
        path = rows[0]
        source = open(path, "rb").read()
        try:
            wanted = expected(source)
        except (SyntaxError, ValueError, RecursionError, IndexError):
            skipped += 1
            continue
        imports, chains, strings, inside = [], [], [], Counter()
        for row in rows[1:]:
            row = row.decode("utf-8", "surrogateescape")
            if row.startswith("I "):
                imports.append(row[2:])
            elif row.startswith("C "):
                begin, nested, name = row[2:].split(" ", 2)
                if nested == "1":
                    inside[name] += 1
                else:
                    chains.append("%s %s" % (begin, name))
            elif row.startswith("S "):
                strings.append(int(row[2:]))
        compared += 1
        totals.update(imports=len(imports), chains=len(chains), strings=len(strings))
        found = (sorted(imports), sorted(chains), sorted(strings), inside)
        if found != wanted:
            differing += 1
            if differing <= 10:
                print(path.decode(errors="replace"))
                for mine, theirs, what in zip(found, wanted, ("imports", "chains", "strings", "in f-strings")):
                    if mine != theirs:
                        a, b = Counter(mine), Counter(theirs)
                        print("  %s: only here %s, only in ast %s" % (what, list((a - b))[:3], list((b - a))[:3]))
    print("%d files compared, %d that this Python cannot parse, %d differ (%s)" % (
        compared, skipped, differing, ", ".join("%d %s" % (n, k) for k, n in totals.items())))
    return 1 if differing else 0


if __name__ == "__main__":
    sys.exit(main())
