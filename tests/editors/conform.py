#!/usr/bin/env python3
"""Plays an editor over a tree, and has each message of the server checked against the protocol's own types.

  conform.py PROGRAM TREE WEB_TOOLS

The tree is that of EditorsTest. WEB_TOOLS holds the packages "typescript" and "vscode-languageserver-protocol" of npm. What the server
said becomes a TypeScript program, each message a constant of the type that the protocol gives it; the compiler judges it. Prints how
many messages of each kind were checked.
"""
import collections, json, os, re, subprocess, sys, tempfile

sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
from protocol import Server, moved, uri

RESULTS = {"initialize": "InitializeResult", "shutdown": "null", "workspace/willRenameFiles": "WorkspaceEdit | null",
           "textDocument/documentLink": "DocumentLink[] | null", "textDocument/definition": "Location[] | null",
           "textDocument/references": "Location[] | null", "textDocument/hover": "Hover | null",
           "textDocument/completion": "CompletionList | null", "textDocument/codeAction": "(Command | CodeAction)[] | null",
           "workspace/executeCommand": "null"}
PARAMS = {"textDocument/publishDiagnostics": "PublishDiagnosticsParams", "window/showMessage": "ShowMessageParams",
          "window/showMessageRequest": "ShowMessageRequestParams", "window/showDocument": "ShowDocumentParams",
          "workspace/applyEdit": "ApplyWorkspaceEditParams", "client/registerCapability": "RegistrationParams",
          "window/workDoneProgress/create": "WorkDoneProgressCreateParams",
          "$/progress": "{ token: ProgressToken; value: WorkDoneProgressBegin | WorkDoneProgressEnd }"}
program, tree, tools = sys.argv[1], os.path.realpath(sys.argv[2]), sys.argv[3]
said = []
server = Server(program, tree, seen=lambda message, method: said.append((message, method)))


def at(path, line, character):
    return {"textDocument": {"uri": uri(os.path.join(tree, path))}, "position": {"line": line, "character": character}}


def here(path):
    return {"textDocument": {"uri": uri(os.path.join(tree, path))}}


server.wait_until_read()
server.ask("textDocument/documentLink", here("main.c"))
server.ask("textDocument/definition", at("main.c", 0, 12))
server.ask("textDocument/references", {**at("main.c", 0, 12), "context": {"includeDeclaration": True}})
server.ask("textDocument/hover", at("main.c", 0, 12))
server.ask("textDocument/hover", at("main.c", 2, 0))
server.ask("textDocument/completion", at("main.c", 0, 12))
range_ = {"start": {"line": 1, "character": 10}, "end": {"line": 1, "character": 10}}
server.ask("textDocument/codeAction", {**here("main.c"), "range": range_, "context": {"diagnostics": []}})
text = open(os.path.join(tree, "main.c")).read()
server.send({"method": "textDocument/didOpen", "params": {"textDocument": {"uri": uri(os.path.join(tree, "main.c")), "languageId": "c", "version": 4, "text": text}}})
server.ask("workspace/willRenameFiles", moved(tree, "level.h", "base/level.h"))
server.request("workspace/willRenameFiles", moved(tree, "parts/ebb.c", "other/ebb.c"))  # refused
told = server.wait_for("window/showMessageRequest")
server.send({"id": told["id"], "result": told["params"]["actions"][0]})
server.wait_for("window/showDocument")
os.makedirs(os.path.join(tree, "include"))
os.rename(os.path.join(tree, "level.h"), os.path.join(tree, "include/level.h"))
changes = [{"uri": uri(os.path.join(tree, path)), "type": kind} for path, kind in (("level.h", 3), ("include/level.h", 1))]
server.send({"method": "workspace/didChangeWatchedFiles", "params": {"changes": changes}})
told = server.wait_for("window/showMessageRequest")
server.send({"id": told["id"], "result": {"title": "Mend"}})
server.wait_for("workspace/applyEdit")
server.ask("tide/level", {})
assert server.end() == 0

lines = ['import * as lsp from "vscode-languageserver-protocol";',
         "type Position = lsp.Position; type ResponseError = { code: number; message: string };"]
used = set(re.findall(r"\b[A-Z]\w+", " ".join((*RESULTS.values(), *PARAMS.values()))))
lines += [f"type {name} = lsp.{name};" for name in sorted(used)]
counts = collections.Counter()
for number, (message, method) in enumerate(said):
    if "method" in message:
        kind, shape = message["method"], f'{{ jsonrpc: "2.0"; id?: number; method: "{message["method"]}"; params: {PARAMS[message["method"]]} }}'
    elif "error" in message:
        kind, shape = "error", '{ jsonrpc: "2.0"; id: number | null; error: ResponseError }'
    else:
        kind, shape = method, f'{{ jsonrpc: "2.0"; id: number; result: {RESULTS[method]} }}'
    counts[kind] += 1
    lines.append(f"export const m{number}: {shape} = {json.dumps(message)};")
with tempfile.TemporaryDirectory() as folder:
    os.symlink(os.path.abspath(tools), os.path.join(folder, "node_modules"))
    with open(os.path.join(folder, "said.ts"), "w") as file:
        file.write("\n".join(lines) + "\n")
    judged = subprocess.run([os.path.join(folder, "node_modules/.bin/tsc"), "--noEmit", "--strict", "--skipLibCheck", "--target", "es2020",
                             "--module", "node16", "--moduleResolution", "node16", "said.ts"], cwd=folder, capture_output=True, text=True)
print(judged.stdout, end="")
print("checked " + ", ".join(f"{kind} {count}" for kind, count in sorted(counts.items())))
missing = (set(RESULTS) - {"workspace/executeCommand"}) | set(PARAMS) | {"error"}
missing -= set(counts) | {"window/showMessage"}
print("missing " + ", ".join(sorted(missing)) if missing else "all kinds were seen")
sys.exit(1 if judged.returncode or missing else 0)
