#!/usr/bin/env python3
"""Stands in for the builds of XML projects, which cannot run here: loads every solution and project of a tree
strictly, resolves every path that it names, and lists what a build would take in, one line each:

    PROJECT KIND PATH      KIND is compiled, listed, root, import, project or filter; PATH is from the root
    PROJECT missing TEXT   a path that leads nowhere

Written from the formats' documentation; shares nothing with the program under test.
Usage: xml_project.py ROOT
"""
import glob
import os
import re
import sys
import xml.etree.ElementTree as ET

COMPILED = {"ClCompile", "Compile", "ResourceCompile", "EmbeddedResource", "MASM", "NASM"}
LISTED = {"ClInclude", "None", "Content", "Image", "Text", "CustomBuild", "Natvis", "Page", "Manifest"}


def local(tag):
    return tag.rsplit("}", 1)[-1]


class Tree:
    def __init__(self, root):
        self.root = os.path.realpath(root)
        self.lines = set()
        self.names = {}

    def find(self, path):
        """The path as the disk spells it, letters of either case alike; None if nothing is there."""
        path = os.path.normpath(path)
        if os.path.exists(path):
            return path
        at = "/"
        for part in path.split("/")[1:]:
            if at not in self.names:
                self.names[at] = {n.lower(): n for n in (os.listdir(at) if os.path.isdir(at) else [])}
            if part.lower() not in self.names[at]:
                return None
            at = os.path.join(at, self.names[at][part.lower()])
        return at

    def tell(self, project, kind, base, text):
        path = self.find(os.path.join(base, text.replace("\\", "/")))
        if path is None:
            self.lines.add((project, "missing", text.replace("\\", "/")))
        elif path == self.root or path.startswith(self.root + "/"):
            self.lines.add((project, kind, os.path.relpath(path, self.root)))


def expand(text, properties):
    """The text with the properties put in; None if one is not known."""
    for _ in range(20):
        found = re.search(r"\$\(([A-Za-z_][A-Za-z0-9_.]*)\)", text)
        if not found:
            break
        value = properties.get(found.group(1).lower())
        if value is None:
            return None
        text = text[: found.start()] + value + text[found.end():]
    return None if "$(" in text or "@(" in text or "%(" in text else text


def words(text):
    return [w.strip().strip('"') for w in text.split(";") if w.strip()]


def load_project(tree, path, solution_folder):
    name = os.path.relpath(path, tree.root)
    folder = os.path.dirname(path)
    properties = {"projectdir": folder + "/", "msbuildprojectdirectory": folder,
                  "msbuildprojectname": os.path.splitext(os.path.basename(path))[0]}
    if solution_folder:
        properties["solutiondir"] = solution_folder + "/"
    items = []
    visit(tree, name, path, properties, items, [])
    for kind, base, text in items:
        if any(c in text for c in "*?"):
            for hit in glob.glob(os.path.join(base, text.replace("\\", "/")), recursive=True):
                if os.path.isfile(hit):
                    tree.lines.add((name, kind, os.path.relpath(os.path.realpath(hit), tree.root)))
        else:
            tree.tell(name, kind, base, text)


def visit(tree, name, path, properties, items, stack):
    if path in stack:
        return
    own = dict(properties)
    here = {"msbuildthisfiledirectory": os.path.dirname(path) + "/"}
    root = ET.parse(path).getroot()
    base = own["msbuildprojectdirectory"]
    for group in root.iter():
        tag = local(group.tag)
        if tag == "Import" and "Project" in group.attrib and "Sdk" not in group.attrib:
            text = expand(group.attrib["Project"], {**properties, **here})
            if text is not None:
                found = tree.find(os.path.join(os.path.dirname(path), text.replace("\\", "/")))
                if found:
                    tree.lines.add((name, "import", os.path.relpath(found, tree.root)))
                    visit(tree, name, found, properties, items, stack + [path])
                elif "Condition" not in group.attrib:
                    tree.lines.add((name, "missing", text.replace("\\", "/")))
        elif tag == "PropertyGroup":
            for child in group:
                value = expand(child.text or "", {**properties, **here})
                if value is not None:
                    properties[local(child.tag).lower()] = value.strip()
        elif tag == "ItemGroup":
            for child in group:
                kind = "compiled" if local(child.tag) in COMPILED else "listed" if local(child.tag) in LISTED else None
                if local(child.tag) == "ProjectReference":
                    kind = "project"
                for word in words(child.attrib.get("Include", "")) if kind else []:
                    text = expand(word, {**properties, **here})
                    if text is not None:
                        items.append((kind, base, text))
        elif tag in ("AdditionalIncludeDirectories", "AdditionalLibraryDirectories"):
            for word in words(group.text or ""):
                text = expand(word, {**properties, **here})
                if text:
                    items.append(("root", base, text))


def load_old_project(tree, path, solution_folder):
    name, folder = os.path.relpath(path, tree.root), os.path.dirname(path)
    properties = {"projectdir": folder + "/", "inputdir": folder + "/"}
    if solution_folder:
        properties["solutiondir"] = solution_folder + "/"
    for element in ET.parse(path).getroot().iter():
        if local(element.tag) == "File":
            text = expand(element.attrib["RelativePath"], properties)
            if text is not None:
                tree.tell(name, "compiled", folder, text)
        for word in re.split("[;,]", element.attrib.get("AdditionalIncludeDirectories", "")):
            text = expand(word.strip().strip('"'), properties)
            if text:
                tree.tell(name, "root", folder, text)


def load_solution(tree, path):
    name, folder, listed = os.path.relpath(path, tree.root), os.path.dirname(path), []
    if path.endswith(".slnx"):
        for element in ET.parse(path).getroot().iter():
            if "Path" in element.attrib:
                tree.tell(name, "project", folder, element.attrib["Path"])
        return listed
    with open(path, encoding="utf-8-sig", errors="replace") as text:
        for line in text:
            found = re.match(r'\s*Project\("([^"]*)"\)\s*=\s*"([^"]*)",\s*"([^"]*)",\s*"([^"]*)"', line)
            if found and found.group(1).upper() != "{2150E333-8FDC-42A3-9474-1A3956D46DE8}":
                tree.tell(name, "project", folder, found.group(3))
                listed.append(tree.find(os.path.join(folder, found.group(3).replace("\\", "/"))))
    return listed


def main(root):
    tree = Tree(root)
    files = [os.path.join(d, n) for d, _, names in os.walk(tree.root) for n in names if "/.git/" not in d + "/"]
    solutions = {}
    for path in sorted(files):
        if path.endswith((".sln", ".slnx")):
            for project in load_solution(tree, path):
                solutions.setdefault(project, set()).add(os.path.dirname(path))
    for path in sorted(files):
        around = solutions.get(path, set())
        solution_folder = next(iter(around)) if len(around) == 1 else None
        if path.endswith((".vcxproj", ".csproj", ".fsproj", ".vbproj")):
            load_project(tree, path, solution_folder)
        elif path.endswith(".vcproj"):
            load_old_project(tree, path, solution_folder)
        elif path.endswith(".filters"):
            for element in ET.parse(path).getroot().iter():
                text = element.attrib.get("Include", "")
                if text and local(element.tag) != "Filter" and "$" not in text and "*" not in text:
                    tree.tell(os.path.relpath(path, tree.root), "filter", os.path.dirname(path), text)
    for line in sorted(tree.lines):
        print(*line, sep="\t")


if __name__ == "__main__":
    main(sys.argv[1])
