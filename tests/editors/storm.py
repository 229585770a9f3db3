#!/usr/bin/env python3
"""A session of random messages: edits, renames, questions, cancellations, garbage, half frames, documents of ten megabytes.

  storm.py PROGRAM TREE SEED MESSAGES

Nothing of what the server answers is carried out. Afterwards the server must still answer, the tree must be as it was, and its memory
must not have grown beyond twice what `survey` takes, beside what the open documents themselves take. Prints the figures.
"""
import hashlib, json, os, random, sys

sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
from protocol import Server, peak_memory, uri

program, tree, seed, count = sys.argv[1], os.path.realpath(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4])
rng = random.Random(seed)
files = sorted(os.path.relpath(os.path.join(folder, name), tree) for folder, _, names in os.walk(tree) for name in names if "/.git" not in folder)


def state():
    out = hashlib.sha256()
    for path in files:
        out.update(path.encode() + open(os.path.join(tree, path), "rb").read())
    listing = sorted(os.path.join(folder, name) for folder, _, names in os.walk(tree) for name in names if "/.git" not in folder)
    return out.hexdigest(), listing


survey = peak_memory([program, "-C", tree, "--no-cache", "survey"])
before = state()
server = Server(program, tree)
server.wait_until_read()
opened, version, sent = {}, 0, 0
TEN = 10_000_000


def path_uri(path):
    return uri(os.path.join(tree, path))


def place():
    return {"line": rng.choice([0, 0, 1, 2, 5, 40, 2**31]), "character": rng.choice([0, 1, 5, 12, 30, 2**31])}


def open_or_close(path):
    global version
    version += 1
    if path in opened:
        opened.pop(path)
        return server.send({"method": "textDocument/didClose", "params": {"textDocument": {"uri": path_uri(path)}}})
    text = open(os.path.join(tree, path), "rb").read().decode(errors="replace")
    opened[path] = True
    server.send({"method": "textDocument/didOpen", "params": {"textDocument": {"uri": path_uri(path), "languageId": "x", "version": version, "text": text}}})


def edit(path):
    global version
    version += 1
    if path not in opened:
        return open_or_close(path)
    text = rng.choice(["", "\n", "include", '"', "../", "\U0001F30A", "x" * 200, "#if", "$(", "{[(", "\0"])
    change = {"text": text} if rng.random() < 0.05 else {"range": {"start": place(), "end": place()}, "text": text}
    server.send({"method": "textDocument/didChange", "params": {"textDocument": {"uri": path_uri(path), "version": version}, "contentChanges": [change]}})


def ask(path):
    method = rng.choice(["hover", "definition", "references", "completion", "documentLink", "codeAction"])
    params = {"textDocument": {"uri": path_uri(path)}, "position": place(), "context": {"includeDeclaration": True, "diagnostics": []},
              "range": {"start": place(), "end": place()}}
    server.request("textDocument/" + method, params)


def rename(path):
    target = rng.choice([path + ".new", "moved/" + os.path.basename(path), rng.choice(files), "../out", path])
    number = server.request("workspace/willRenameFiles", {"files": [{"oldUri": path_uri(path), "newUri": path_uri(target)}]})
    if rng.random() < 0.5:
        server.send({"method": "$/cancelRequest", "params": {"id": number}})


def garbage(path):
    kind = rng.randrange(6)
    if kind == 0:
        server.write(bytes(rng.randrange(256) for _ in range(rng.randrange(1, 300))) + b"\r\n\r\n")
    elif kind == 1:
        server.write(b"Content-Length: 60\r\n\r\n{\"half\": ")
    elif kind == 2:
        server.send({"method": rng.choice(["textDocument/didChange", "workspace/didRenameFiles", "$/unknown"]), "params": rng.choice([None, [], 7, {"textDocument": []}])})
    elif kind == 3:
        server.request(rng.choice(["textDocument/hover", "tide/level", "workspace/executeCommand"]), rng.choice([None, [], {"command": "x"}, {"position": "no"}]))
    elif kind == 4:
        server.send({"id": 424242, "result": {"title": "Mend"}})
    else:
        body = b"[" * 100_000
        server.write(b"Content-Length: %d\r\n\r\n" % len(body) + body)


def large(path):
    global version
    version += 1
    if rng.random() < 0.9:
        return ask(path)
    text = rng.choice(["x" * TEN, "tide level\n" * (TEN // 11), '#include "a"\n' * (TEN // 13)])
    server.send({"method": "textDocument/didOpen", "params": {"textDocument": {"uri": path_uri(path), "languageId": "x", "version": version, "text": text}}})
    server.send({"method": "textDocument/didChange", "params": {"textDocument": {"uri": path_uri(path), "version": version}, "contentChanges": [{"range": {"start": place(), "end": place()}, "text": "y"}]}})
    server.send({"method": "textDocument/didClose", "params": {"textDocument": {"uri": path_uri(path)}}})
    opened.pop(path, None)


STEPS = [edit] * 40 + [ask] * 25 + [open_or_close] * 10 + [rename] * 12 + [garbage] * 10 + [large] * 3
for sent in range(count):
    rng.choice(STEPS)(rng.choice(files))
    if sent % 50 == 0:
        server.drain()
        assert server.process.poll() is None, f"ended with {server.process.returncode} at message {sent}"
# What half a frame swallowed may be the first of these.
server.send({"method": "$/unknown", "params": {"text": "x" * 200}})
server.send({"method": "$/unknown", "params": {}})
for path in list(opened):
    open_or_close(path)
answer = server.ask("textDocument/documentLink", {"textDocument": {"uri": path_uri(files[0])}})
assert "result" in answer, answer
peak = server.memory()
assert server.end() == 0
assert state() == before, "the tree was touched"
print(f"{count} messages, seed {seed}: peak {peak:.0f} MB, of survey {survey:.0f} MB")
# Documents of ten megabytes are held as sent, as JSON and as a text, while one is taken in.
allowed = 2 * survey + 16 * TEN / 1e6
sys.exit(0 if peak <= allowed else 1)
