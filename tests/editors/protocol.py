"""A client of the Language Server Protocol, as far as tests and measurements need one."""
import json, os, subprocess, threading, urllib.parse
from queue import Empty, Queue

CAPABILITIES = {
    "general": {"positionEncodings": ["utf-16"]},
    "workspace": {"applyEdit": True, "didChangeWatchedFiles": {"dynamicRegistration": True},
                  "workspaceEdit": {"documentChanges": True, "resourceOperations": ["create", "rename", "delete"],
                                    "changeAnnotationSupport": {"groupsOnLabel": True}}},
    "window": {"workDoneProgress": True, "showDocument": {"support": True}},
    "textDocument": {"hover": {"contentFormat": ["markdown", "plaintext"]},
                     "codeAction": {"codeActionLiteralSupport": {"codeActionKind": {"valueSet": ["quickfix"]}}}}}


def uri(path):
    return "file://" + urllib.parse.quote(path)


class Server:
    """Runs `PROGRAM -C TREE serve`. Every message of the server is handed to `seen(message, method of its request)`."""

    def __init__(self, program, tree, capabilities=CAPABILITIES, seen=lambda message, method: None):
        self.process = subprocess.Popen([program, "-C", tree, "serve"], stdin=subprocess.PIPE, stdout=subprocess.PIPE)
        self.seen, self.tree, self.number, self.methods = seen, tree, 0, {}
        self.came = Queue()
        threading.Thread(target=self._read, daemon=True).start()
        self.initialized = self.ask("initialize", {"processId": None, "clientInfo": {"name": "script"}, "rootUri": uri(tree), "capabilities": capabilities})
        self.send({"method": "initialized", "params": {}})

    def _read(self):
        out = self.process.stdout
        while True:
            length = None
            while (line := out.readline()) not in (b"\r\n", b""):
                if line.lower().startswith(b"content-length:"):
                    length = int(line.split(b":")[1])
            if length is None:
                return self.came.put(None)
            message = json.loads(out.read(length))
            self.seen(message, self.methods.get(message.get("id")) if "method" not in message else None)
            self.came.put(message)

    def write(self, data):
        self.process.stdin.write(data)
        self.process.stdin.flush()

    def send(self, message):
        body = json.dumps({"jsonrpc": "2.0", **message}).encode()
        self.write(b"Content-Length: %d\r\n\r\n" % len(body) + body)

    def request(self, method, params):
        self.number += 1
        self.methods[self.number] = method
        self.send({"id": self.number, "method": method, "params": params})
        return self.number

    def take(self, timeout=120):
        message = self.came.get(timeout=timeout)
        if message is None:
            raise EOFError("the server has ended")
        return message

    def ask(self, method, params):
        number = self.request(method, params)
        while (message := self.take()).get("id") != number or "method" in message:
            pass
        return message

    def wait_for(self, method):
        while (message := self.take()).get("method") != method:
            pass
        return message

    def wait_until_read(self):
        while self.wait_for("$/progress")["params"]["value"]["kind"] != "end":
            pass

    def drain(self):
        try:
            while True:
                self.came.get_nowait()
        except Empty:
            pass

    def memory(self, what="VmHWM"):
        """In MB, at its highest."""
        with open(f"/proc/{self.process.pid}/status") as status:
            return next(int(line.split()[1]) for line in status if line.startswith(what)) / 1024

    def end(self):
        self.ask("shutdown", None)
        self.send({"method": "exit"})
        return self.process.wait(timeout=60)


def moved(tree, old, new):
    return {"files": [{"oldUri": uri(os.path.join(tree, old)), "newUri": uri(os.path.join(tree, new))}]}


def peak_memory(command):
    """Of a whole process, in MB."""
    child = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    _, _, usage = os.wait4(child.pid, 0)
    return usage.ru_maxrss / 1024
