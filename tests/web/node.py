"""Run the front end's modules in Node: functions of its document, and scripts that drive its stores."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any

WEB = Path(__file__).parents[2] / "web"

RUN = """
const ts = require("typescript");
const fs = require("fs");
const path = require("path");
const options = { module: "commonjs", target: "es2023" };
const loaded = new Map();
function load(file) {
  if (loaded.has(file)) return loaded.get(file);
  const made = { exports: {} };
  loaded.set(file, made.exports);
  const { outputText } = ts.transpileModule(fs.readFileSync(file, "utf8"), { compilerOptions: options });
  const find = (name) => (name.startsWith(".") ? load(path.resolve(path.dirname(file), name) + ".ts") : require(name));
  new Function("exports", "module", "require", outputText)(made.exports, made, find);
  return made.exports;
}
const use = (name) => load(path.resolve("src", name + ".ts"));
const revive = (_, value) => (value && value.$map ? new Map(value.$map) : value);
const plain = (_, value) => (value instanceof Map ? [...value] : value);
const { script, given } = JSON.parse(fs.readFileSync(0, "utf8"), revive);
const run = new Function("use", "given", `return (async () => { ${script} })()`);
run(use, given).then((found) => process.stdout.write(JSON.stringify(found, plain)));
"""


def run(script: str, given: Any = None) -> Any:
    """What a script returns; ``use("state/timeline")`` in it gives a module, ``given`` what is handed in."""
    sent = json.dumps({"script": script, "given": given})
    made = subprocess.run(["node", "-e", RUN], input=sent, capture_output=True, text=True, cwd=WEB, check=False)
    if made.returncode:
        raise AssertionError(made.stderr)
    return json.loads(made.stdout)


def call(module: str, function: str, *calls: list[Any]) -> list[Any]:
    """What an exported function gives for each list of arguments. ``{"$map": pairs}`` stands for a Map."""
    script = "return given.calls.map((one) => use(given.module)[given.function](...one));"
    return run(script, {"module": f"document/{module}", "function": function, "calls": list(calls)})
