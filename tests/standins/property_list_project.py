#!/usr/bin/env python3
"""Stands in for the builds of projects in property lists (project.pbxproj), which cannot run here: loads every
project and workspace of a tree strictly, resolves every path that it names, and lists what a build would take in:

    PROJECT KIND PATH      KIND is compiled, listed, setting, root or project; PATH is from the root
    PROJECT missing TEXT   a path that leads nowhere

Written from the format's description; shares nothing with the program under test.
Usage: property_list_project.py ROOT
"""
import os
import re
import sys
import xml.etree.ElementTree as ET

TOKEN = re.compile(r"""\s+|/\*.*?\*/|//[^\n]*|([{}()=;,])|"((?:[^"\\]|\\.)*)"|([A-Za-z0-9_.$/:+<>@~-]+)""", re.S)


def tokens(text):
    at = 0
    while at < len(text):
        found = TOKEN.match(text, at)
        if not found:
            raise SyntaxError(f"offset {at}: {text[at:at + 20]!r}")
        at = found.end()
        if found.group(1):
            yield found.group(1), None
        elif found.group(2) is not None:
            yield "string", re.sub(r"\\(.)", lambda m: {"n": "\n", "t": "\t"}.get(m.group(1), m.group(1)), found.group(2))
        elif found.group(3):
            yield "string", found.group(3)


def parse(text):
    rest = list(tokens(text.lstrip("\ufeff")))
    rest.reverse()

    def take(kind):
        have, value = rest.pop()
        if have != kind:
            raise SyntaxError(f"{kind} wanted, {have} found")
        return value

    def value():
        kind, text = rest.pop()
        if kind == "string":
            return text
        if kind == "(":
            out = []
            while rest[-1][0] != ")":
                out.append(value())
                if rest[-1][0] == ",":
                    rest.pop()
            take(")")
            return out
        if kind != "{":
            raise SyntaxError(kind)
        out = {}
        while rest[-1][0] != "}":
            key = take("string")
            take("=")
            if key in out:
                raise SyntaxError("twice: " + key)
            out[key] = value()
            take(";")
        take("}")
        return out

    out = value()
    if rest:
        raise SyntaxError("text behind the end")
    return out


class Project:
    def __init__(self, root, path):
        self.root, self.name = root, os.path.relpath(path, root)
        self.folder = os.path.dirname(os.path.dirname(path))
        self.lines = set()
        with open(path, encoding="utf-8") as text:
            self.objects = parse(text.read())
        top = self.objects["objects"][self.objects["rootObject"]]
        self.objects = self.objects["objects"]
        self.base = os.path.normpath(os.path.join(self.folder, top.get("projectDirPath", "")))
        self.places = {}
        self.seen = set()
        self.walk(top["mainGroup"], self.base)
        self.compile(top)
        self.settings()

    def walk(self, identifier, folder):
        if identifier in self.seen:
            raise SyntaxError("in two groups: " + identifier)
        self.seen.add(identifier)
        one = self.objects[identifier]
        tree = one.get("sourceTree", "<group>")
        if tree not in ("<group>", "SOURCE_ROOT"):
            return
        place = os.path.join(folder if tree == "<group>" else self.base, one.get("path", ""))
        self.places[identifier] = os.path.normpath(place)
        for child in one.get("children", []):
            self.walk(child, place)

    def tell(self, kind, path, text):
        path = os.path.normpath(path)
        if not os.path.exists(path):
            self.lines.add((self.name, "missing", text))
        elif path == self.root or path.startswith(self.root + "/"):
            self.lines.add((self.name, kind, os.path.relpath(path, self.root)))

    def compile(self, top):
        built = set()
        for target in top.get("targets", []):
            for phase in self.objects[target].get("buildPhases", []):
                for build in self.objects[phase].get("files", []):
                    built.add(self.objects[build].get("fileRef"))
        for identifier, place in self.places.items():
            one = self.objects[identifier]
            if one["isa"] == "PBXFileReference":
                self.tell("compiled" if identifier in built else "listed", place, one.get("path", ""))

    def settings(self):
        for one in self.objects.values():
            for key, value in one.get("buildSettings", {}).items() if one["isa"] == "XCBuildConfiguration" else []:
                folders = key.endswith("SEARCH_PATHS")
                if not folders and key not in ("INFOPLIST_FILE", "GCC_PREFIX_HEADER", "CODE_SIGN_ENTITLEMENTS"):
                    continue
                for text in value if isinstance(value, list) else value.split(" ") if folders else [value]:
                    text = text.strip('" ')
                    text = re.sub(r"\$[({](SRCROOT|PROJECT_DIR)[)}]", self.base, text)
                    if not text or "$" in text or text.endswith("**"):
                        continue
                    self.tell("root" if folders else "setting", os.path.join(self.base, text), text)


def main(root):
    root = os.path.realpath(root)
    lines = set()
    for folder, _, names in sorted(os.walk(root)):
        for name in names:
            path = os.path.join(folder, name)
            if name == "project.pbxproj":
                lines |= Project(root, path).lines
            elif name == "contents.xcworkspacedata" and ".xcodeproj/" not in path:
                for element in ET.parse(path).getroot().iter("FileRef"):
                    kind, text = element.attrib["location"].split(":", 1)
                    target = os.path.normpath(os.path.join(os.path.dirname(folder), text))
                    if kind in ("group", "container"):
                        what = "project" if os.path.exists(target) else "missing"
                        shown = os.path.relpath(target, root) if what == "project" else text
                        lines.add((os.path.relpath(path, root), what, shown))
    for line in sorted(lines):
        print(*line, sep="\t")


if __name__ == "__main__":
    main(sys.argv[1])
