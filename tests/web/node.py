"""Run functions of the front end's document modules in Node."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any

WEB = Path(__file__).parents[2] / "web"

RUN = """
const ts = require("typescript");
const fs = require("fs");
const options = { module: "commonjs", target: "es2023" };
function load(name) {
  const source = fs.readFileSync(`src/document/${name}.ts`, "utf8");
  const made = { exports: {} };
  const { outputText } = ts.transpileModule(source, { compilerOptions: options });
  new Function("exports", "module", "require", outputText)(made.exports, made, (path) => load(path.slice(2)));
  return made.exports;
}
const revive = (_, value) => (value && value.$map ? new Map(value.$map) : value);
const plain = (_, value) => (value instanceof Map ? [...value] : value);
const { name, called, calls } = JSON.parse(fs.readFileSync(0, "utf8"), revive);
const found = load(name)[called];
process.stdout.write(JSON.stringify(calls.map((given) => found(...given)), plain));
"""


def call(module: str, function: str, *calls: list[Any]) -> list[Any]:
    """What an exported function gives for each list of arguments. ``{"$map": pairs}`` stands for a Map."""
    given = json.dumps({"name": module, "called": function, "calls": list(calls)})
    made = subprocess.run(["node", "-e", RUN], input=given, capture_output=True, text=True, cwd=WEB, check=True)
    return json.loads(made.stdout)
