"""Edits one value at a time and reads the file with another parser: just that value may be another. See bench/value-edits."""

import configparser
import json
import random
import sys
import tomllib
import xml.etree.ElementTree as xml

import yaml

FRESH = "zz/new-1.png"


def leaves(value, path=()):
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from leaves(inner, path + (str(key),))
    elif isinstance(value, (list, tuple)):
        for index, inner in enumerate(value):
            yield from leaves(inner, path + (index,))
    else:
        yield path, repr(value)


def parse(path, data):
    ending = path.rsplit(".", 1)[-1]
    if ending == "json":
        return list(leaves(json.loads(data.decode("utf-8-sig"))))
    if ending == "toml":
        return list(leaves(tomllib.loads(data.decode())))
    if ending in ("yaml", "yml"):
        return list(leaves(list(yaml.load_all(data, Loader=yaml.BaseLoader))))
    if ending == "xml":
        out = []
        for number, node in enumerate(xml.fromstring(data).iter()):
            out += [((number, "text"), (node.text or "").strip())]
            out += [((number, key), value) for key, value in node.attrib.items()]
        return out
    reader = configparser.RawConfigParser(strict=False, allow_no_value=True, inline_comment_prefixes=("#", ";"))
    reader.read_string(data.decode())
    out = []
    for section in reader.sections():
        for key, value in reader[section].items():
            for number, line in enumerate((value or "").splitlines()):
                out.append(((section, key, number), line.strip()))
    return out


def main():
    random.seed(1)
    files = edits = wrong = skipped = 0
    by_kind = {}
    for block in open(sys.argv[1], "rb").read().split(b"\nF "):
        rows = block.removeprefix(b"F ").split(b"\n")
        path = rows[0].decode()
        data = open(path, "rb").read()
        values = [row.split(b" ", 3) for row in rows[1:] if row.startswith(b"V ")]
        values = [v for v in values if b"://" not in data[int(v[1]):int(v[2])]]  # names of XML namespaces
        try:
            before = parse(path, data)
        except Exception:
            skipped += 1
            continue
        if not values:
            continue
        files += 1
        kind = path.rsplit(".", 1)[-1]
        by_kind[kind] = by_kind.get(kind, 0) + 1
        for _, begin, end, text in random.sample(values, min(40, len(values))):
            edits += 1
            new = data[:int(begin)] + text + data[int(end):]
            try:
                after = parse(path, new)
                changed = [(b, a) for b, a in zip(before, after) if b != a]
                # What an alias repeats changes wherever it stands.
                same = len({(b[1], a[1]) for b, a in changed}) <= 1
                good = len(before) == len(after) and same and all(FRESH in a[1] for _, a in changed)
            except Exception as error:
                good, changed = False, error
            if not good:
                wrong += 1
                if wrong <= 10:
                    print("%s at %s: %s" % (path, begin.decode(), changed if isinstance(changed, Exception) else changed[:2]))
    print("%d files (%s), %d edits, %d wrong; %d files that the other parser does not take" % (
        files, ", ".join("%d %s" % (n, k) for k, n in sorted(by_kind.items())), edits, wrong, skipped))
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
