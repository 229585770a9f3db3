#!/usr/bin/env python3
"""Stands in for the builder of container images, which cannot run here: takes CONTEXT, does what FILE copies in a
folder of its own, of each stage, and runs what it runs there, with the working folder followed. Written from the
format's description; knows FROM, WORKDIR, COPY and RUN.
Usage: container.py CONTEXT FILE
"""
import glob
import os
import shlex
import shutil
import subprocess
import sys
import tempfile


def inside(root, folder, path):
    full = os.path.normpath(os.path.join("/", folder, path))
    return os.path.join(root, full.lstrip("/"))


def copy(sources, target, into):
    for source in sources:
        if os.path.isdir(source):
            shutil.copytree(source, target, dirs_exist_ok=True, symlinks=True)
        else:
            place = os.path.join(target, os.path.basename(source)) if into or os.path.isdir(target) else target
            os.makedirs(os.path.dirname(place), exist_ok=True)
            shutil.copy2(source, place)


def main():
    context, file = sys.argv[1:]
    stages, root, folder = {}, None, "/"
    text = open(file).read().replace("\\\n", " ")
    for line in text.splitlines():
        words = shlex.split(line, comments=True)
        if not words:
            continue
        verb, rest = words[0].upper(), words[1:]
        if verb == "FROM":
            root, folder = tempfile.mkdtemp(), "/"
            stages[str(len(stages))] = root
            if len(rest) == 3:
                stages[rest[2]] = root
        elif verb == "WORKDIR":
            folder = os.path.join(folder, rest[0])
            os.makedirs(inside(root, "/", folder), exist_ok=True)
        elif verb == "COPY":
            start = context
            if rest[0].startswith("--from="):
                start = stages[rest.pop(0)[len("--from="):]]
            found = []
            for each in rest[:-1]:
                matches = glob.glob(os.path.join(start, each.lstrip("/")))
                if not matches:
                    sys.exit(f"{file}: COPY {each}: nothing of that name in the context")
                found += matches
            copy(found, inside(root, folder, rest[-1]), rest[-1].endswith("/") or len(found) > 1)
        elif verb == "RUN":
            subprocess.run(line.split(None, 1)[1], shell=True, check=True, cwd=inside(root, "/", folder))


main()
