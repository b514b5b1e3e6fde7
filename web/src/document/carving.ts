// Pure edits of how a board is carved: which layers stand how high, with which tools.

import { CARVING, LEVEL } from "../api/facts";
import { isCut } from "./handOver";
import type { Carving, Design, Layer, Level, Process } from "./types";

/** A new kind of work for a layer: what is carved gets a place in the carving, what is not any more loses it. */
export function setProcess(design: Design, id: string, process: Process): Design {
  const layers = design.layers.map((layer) => (layer.id === id ? { ...layer, process } : layer));
  const changed = forgetCarved({ ...design, layers }, id, process !== "cut" && process !== "through");
  return process === "carve" ? carve(changed, id) : changed;
}

/** A layer has its place at the lowest level; a first one makes the lowest layer that is cut the board. */
function carve(design: Design, id: string): Design {
  if (design.carving) return setLevel(design, id, design.carving.levels.length - 1);
  const board = design.layers.findLast(isCut);
  if (!board) return design;
  // It is made of the board, whatever it was made of.
  const { material, colour } = board;
  const made = {
    ...design,
    layers: design.layers.map((one) => (one.id === id ? { ...one, material, colour } : one)),
  };
  const level: Level = { ...structuredClone(LEVEL.starts), layers: [id] };
  return { ...made, carving: { ...structuredClone(CARVING.starts), board: board.id, levels: [level] } };
}

export function patchCarving(design: Design, change: Partial<Carving>): Design {
  return design.carving ? { ...design, carving: { ...design.carving, ...change } } : design;
}

export function patchLevel(design: Design, index: number, change: Partial<Level>): Design {
  const levels = design.carving?.levels.map((one, k) => (k === index ? { ...one, ...change } : one));
  return levels ? patchCarving(design, { levels }) : design;
}

/** Where a layer is carved: standing at a level, or sunk into the top. */
export type Standing = number | "sunk";

/** Put a layer there, and nowhere else. */
export function setLevel(design: Design, id: string, where: Standing): Design {
  const without = forgetCarved(design, id, false);
  const levels = without.carving?.levels.map((one, k) =>
    k === where ? { ...one, layers: [...one.layers, id] } : one,
  );
  const sunk = without.carving?.sunk ?? [];
  return levels ? patchCarving(without, { levels, sunk: where === "sunk" ? [...sunk, id] : sunk }) : design;
}

/** One more level under the others, as deep as the last. */
export function addLevel(design: Design): Design {
  const levels = design.carving?.levels ?? [];
  const depth = levels.at(-1)?.depth ?? LEVEL.starts.depth;
  return patchCarving(design, { levels: [...levels, { layers: [], depth }] });
}

/** The lowest level goes; what stood on it stands a level higher. */
export function dropLevel(design: Design): Design {
  const levels = design.carving?.levels ?? [];
  const [last, before] = [levels.at(-1), levels.at(-2)];
  if (!last || !before) return design;
  const layers = [...before.layers, ...last.layers];
  return patchCarving(design, { levels: [...levels.slice(0, -2), { ...before, layers }] });
}

/** The carving without a layer; without its board there is none. */
export function forgetCarved(design: Design, id: string, boardToo = true): Design {
  if (!design.carving) return design;
  if (design.carving.board === id && boardToo) return { ...design, carving: null };
  const levels = design.carving.levels.map((one) => ({
    ...one,
    layers: one.layers.filter((other) => other !== id),
  }));
  return patchCarving(design, { levels, sunk: design.carving.sunk.filter((other) => other !== id) });
}

/** How many levels down the top of a layer is: of the board its lowest ground; null of what has no place in the carving. */
export function levelsDown(design: Design, id: string): number | null {
  const { carving } = design;
  if (!carving) return null;
  if (carving.board === id)
    return carving.levels.some((one) => one.layers.length) ? carving.levels.length : 0;
  if (carving.sunk.includes(id)) return 1;
  const level = carving.levels.findIndex((one) => one.layers.includes(id));
  return level < 0 ? null : level;
}

/** Layers that are carved, and where each is; null where that is not said. */
export function carvedLayers(design: Design): { layer: Layer; level: Standing | null }[] {
  const { levels = [], sunk = [] } = design.carving ?? {};
  return design.layers
    .filter((layer) => layer.process === "carve")
    .map((layer) => {
      const level = levels.findIndex((one) => one.layers.includes(layer.id));
      return { layer, level: sunk.includes(layer.id) ? "sunk" : level < 0 ? null : level };
    });
}
