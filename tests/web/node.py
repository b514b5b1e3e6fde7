"""Run the front end's modules in Node: functions of its document, and scripts that drive its stores."""

from __future__ import annotations

import atexit
import json
import subprocess
from functools import cache
from pathlib import Path
from typing import Any

WEB = Path(__file__).parents[2] / "web"

# Everything is translated once; each script runs in a thread of its own, with modules and globals of its own.
SERVE = """
const ts = require("typescript");
const fs = require("fs");
const path = require("path");
const { Worker } = require("worker_threads");
const options = { module: "commonjs", target: "es2023" };
const sources = {};
for (const name of fs.readdirSync("src", { recursive: true }))
  if (name.endsWith(".ts") && !name.endsWith(".d.ts")) {
    const file = path.resolve("src", name);
    sources[file] = ts.transpileModule(fs.readFileSync(file, "utf8"), { compilerOptions: options }).outputText;
  }
const thread = process.argv[1];
require("readline").createInterface({ input: process.stdin }).on("line", (line) => {
  const worker = new Worker(thread, { eval: true, workerData: { line, sources } });
  const answer = (made) => {
    process.stdout.write(JSON.stringify(made) + "\\n");
    worker.terminate();
  };
  worker.once("message", answer).once("error", (error) => answer({ failed: String(error.stack ?? error) }));
});
"""

THREAD = """
const path = require("path");
const { parentPort, workerData } = require("worker_threads");
const asked = require("module").createRequire(path.resolve("package.json"));
const loaded = new Map();
function load(file) {
  if (loaded.has(file)) return loaded.get(file);
  const made = { exports: {} };
  loaded.set(file, made.exports);
  const find = (name) => (name.startsWith(".") ? load(path.resolve(path.dirname(file), name) + ".ts") : asked(name));
  new Function("exports", "module", "require", workerData.sources[file])(made.exports, made, find);
  return made.exports;
}
const use = (name) => load(path.resolve("src", name + ".ts"));
const revive = (_, value) => (value && value.$map ? new Map(value.$map) : value);
const plain = (_, value) => (value instanceof Map ? [...value] : value);
const { script, given } = JSON.parse(workerData.line, revive);
const run = new Function("use", "given", `return (async () => { ${script} })()`);
run(use, given).then(
  (found) => parentPort.postMessage({ found: JSON.stringify(found ?? null, plain) }),
  (error) => parentPort.postMessage({ failed: String(error.stack ?? error) }),
);
"""


@cache
def _node() -> subprocess.Popen[str]:
    """A Node that runs one script after the other, for as long as the tests do."""
    node = subprocess.Popen(
        ["node", "-e", SERVE, THREAD], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, cwd=WEB
    )
    atexit.register(node.kill)
    return node


def run(script: str, given: Any = None) -> Any:
    """What a script returns; ``use("state/timeline")`` in it gives a module, ``given`` what is handed in."""
    node = _node()
    assert node.stdin and node.stdout
    node.stdin.write(json.dumps({"script": script, "given": given}) + "\n")
    node.stdin.flush()
    made = json.loads(node.stdout.readline())
    if "failed" in made:
        raise AssertionError(made["failed"])
    return json.loads(made["found"])


def call(module: str, function: str, *calls: list[Any]) -> list[Any]:
    """What an exported function gives for each list of arguments. ``{"$map": pairs}`` stands for a Map."""
    script = "return given.calls.map((one) => use(given.module)[given.function](...one));"
    return run(script, {"module": f"document/{module}", "function": function, "calls": list(calls)})
