#!/usr/bin/env python3
"""Stands in for the editor that builds assembly definitions (.asmdef, .asmref), which cannot run here: each source
belongs to the nearest one upwards, sources without one to the default assembly, which uses all others; each is
compiled by mcs against the ones that it refers to and nothing else. Written from the format's description.
Usage: assemblies.py ROOT
"""
import json
import os
import subprocess
import sys
import tempfile


def load(root):
    named, folders, joins = {}, {}, {}
    for folder, _, files in os.walk(root):
        for name in files:
            path = os.path.join(folder, name)
            if name.endswith(".asmdef"):
                with open(path) as file:
                    named[json.load(open(path))["name"]] = (folder, json.load(file).get("references", []))
                folders[folder] = json.load(open(path))["name"]
            elif name.endswith(".asmref"):
                joins[folder] = json.load(open(path))["reference"]
    folders.update(joins)
    return named, folders


def owner(folder, root, folders):
    while True:
        if folder in folders:
            return folders[folder]
        if folder == root:
            return ""
        folder = os.path.dirname(folder)


def main():
    root = os.path.realpath(sys.argv[1])
    named, folders = load(root)
    sources = {name: [] for name in [*named, ""]}
    for folder, _, files in os.walk(root):
        for name in files:
            if name.endswith(".cs"):
                sources[owner(folder, root, folders)].append(os.path.join(folder, name))
    out = tempfile.mkdtemp()
    built = set()

    def build(name, chain=()):
        if name in chain:
            sys.exit("a cycle: " + " -> ".join([*chain, name]))
        if name in built or not sources.get(name, [1]):
            return
        if name not in sources:
            sys.exit(f"no assembly {name}, which {chain[-1]} refers to")
        uses = named[name][1] if name else [each for each in named if sources[each]]
        for each in uses:
            build(each, (*chain, name))
        command = ["mcs", "-nologo", "-target:library", "-out:" + os.path.join(out, (name or "Default") + ".dll")]
        command += ["-r:" + os.path.join(out, each + ".dll") for each in uses if each in built]
        subprocess.run(command + sources[name], check=True)
        built.add(name)

    for name in [*sorted(named), ""]:
        build(name)


main()
