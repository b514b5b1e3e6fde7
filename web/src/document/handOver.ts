// Pure edits of how a design leaves: formats, the table of processes, pictures, what one layer does otherwise.

import type { Material } from "../api/answers";
import { TABLE } from "../api/facts";
import { patchLayer } from "./layers";
import type { Design, Format, HandingOver, Layer, Leaving, Process } from "./types";

export type Leaves = keyof HandingOver["table"];

/** The processes that leave, in the order they are listed. */
export const LEAVING: [Leaves, string][] = [
  ["cut", "Cut"],
  ["through", "Cut through"],
  ["score", "Score"],
  ["draw", "Draw"],
  ["engrave", "Engrave"],
  ["print", "Print"],
];

/** The hand-over with some of it changed. */
export function patchHandOver(design: Design, change: Partial<HandingOver>): Design {
  return { ...design, hand_over: { ...design.hand_over, ...change } };
}

/** Whether a layer's pieces come free: cut down to the carrier of a film, or through that, too. */
export function isCut(layer: Layer): boolean {
  return layer.process === "cut" || layer.process === "through";
}

/** Whether a tool goes along its lines, on the surface. */
export function isLine(layer: Layer): boolean {
  return layer.process === "score" || layer.process === "draw";
}

/** Tick a format, or take the tick away; one stays ticked. */
export function toggleFormat(design: Design, format: Format, order: Format[]): Design {
  const { formats } = design.hand_over;
  const next = order.filter((one) => (one === format ? !formats.includes(one) : formats.includes(one)));
  return next.length > 0 ? patchHandOver(design, { formats: next }) : design;
}

type Kind = HandingOver["files"][number];
const KINDS: Kind[] = ["boards", "layers", "together"];

/** Let a kind of file leave, or no more; one stays. */
export function toggleFiles(design: Design, kind: Kind): Design {
  const { files } = design.hand_over;
  const next = KINDS.filter((one) => (one === kind ? !files.includes(one) : files.includes(one)));
  return next.length > 0 ? patchHandOver(design, { files: next }) : design;
}

export function patchTiling(design: Design, change: Partial<HandingOver["tiling"]>): Design {
  return patchHandOver(design, { tiling: { ...design.hand_over.tiling, ...change } });
}

export function patchCosts(design: Design, change: Partial<HandingOver["costs"]>): Design {
  return patchHandOver(design, { costs: { ...design.hand_over.costs, ...change } });
}

export function setDxfUnit(design: Design, dxf_unit: HandingOver["dxf_unit"]): Design {
  return patchHandOver(design, { dxf_unit });
}

export function setTable(design: Design, table: HandingOver["table"]): Design {
  return patchHandOver(design, { table });
}

export function patchLeaving(design: Design, process: Leaves, change: Partial<Leaving>): Design {
  const { table } = design.hand_over;
  return setTable(design, { ...table, [process]: { ...table[process], ...change } });
}

export function patchLiningUp(design: Design, change: Partial<HandingOver["lining_up"]>): Design {
  return patchHandOver(design, { lining_up: { ...design.hand_over.lining_up, ...change } });
}

export function patchSolids(design: Design, change: Partial<HandingOver["solids"]>): Design {
  return patchHandOver(design, { solids: { ...design.hand_over.solids, ...change } });
}

/** How high a layer is as a solid; as thick as its material where nothing is said. */
export function setSolidHeight(design: Design, layer: string, height: number): Design {
  const rest = design.hand_over.solids.heights.filter((one) => one.layer !== layer);
  return patchSolids(design, { heights: [...rest, { layer, height }] });
}

export function setOvercut(design: Design, overcut: number): Design {
  return patchHandOver(design, { overcut });
}

export function patchPicture(design: Design, change: Partial<HandingOver["picture"]>): Design {
  return patchHandOver(design, { picture: { ...design.hand_over.picture, ...change } });
}

const leaves = (process: Process): process is Leaves => process in TABLE;

/** How a layer leaves: as is said of it, or as its process does; a guide never leaves. */
export function leavingOf(design: Design, layer: Layer): Leaving | null {
  return leaves(layer.process) ? (layer.leaving ?? design.hand_over.table[layer.process]) : null;
}

/** Let a layer leave otherwise than its process does, or as that again. */
export function overrideLeaving(design: Design, id: string, leaving: Leaving | null): Design {
  return patchLayer(design, id, { leaving });
}

/** Put a layer on a board of its own name, or on that of its material. */
export function putOnBoard(design: Design, id: string, board: string): Design {
  return patchLayer(design, id, { board: board.trim().slice(0, 64) || null });
}

export type Board = {
  key: string;
  material: string;
  colour: string | null;
  board: string | null;
  layers: Layer[];
};

/** The boards of a design: layers of one material in one colour that leave, and what the maker put together under a name. */
export function boardsOf(design: Design): Board[] {
  const found = new Map<string, Layer[]>();
  const leaving = design.layers.filter((layer) => !layer.hidden && layer.process !== "guide");
  for (const [index, layer] of leaving.entries()) {
    const key = JSON.stringify(layer.board ? [layer.board] : [null, ...stock(leaving, index)]);
    found.set(key, [...(found.get(key) ?? []), layer]);
  }
  return [...found].map(([key, layers]) => {
    const ground = layers.findLast(isCut) ?? layers.at(-1);
    const { material = "", colour = null } = ground ?? {};
    return { key, material, colour, board: layers[0]?.board ?? null, layers };
  });
}

/** What a layer is made from; what is marked is made on what is cut of its material, next under it or else over. */
function stock(leaving: Layer[], index: number): [string, string | null] {
  const layer = leaving[index] as Layer;
  const beside = [...leaving.slice(index), ...leaving.slice(0, index).toReversed()];
  const on = beside.find((one) => isCut(one) && one.material === layer.material);
  const { material, colour } = isCut(layer) ? layer : (on ?? layer);
  return [material, colour];
}

/** Whether a board leaves swapped left for right: what is ironed on does, unless it is said of all. */
export function leavesMirrored(design: Design, board: Board, materials: Material[]): boolean {
  const { mirror } = design.hand_over;
  const asked = materials.find((one) => one.id === board.material)?.limits.mirrored ?? false;
  return mirror === "as_material" ? asked : mirror === "all";
}

export function setMirror(design: Design, mirror: HandingOver["mirror"]): Design {
  return patchHandOver(design, { mirror });
}

/** Whether a table is as it comes. */
export function isUsual(table: HandingOver["table"]): boolean {
  return JSON.stringify(table) === JSON.stringify(TABLE);
}

export const usualTable = (): HandingOver["table"] => structuredClone(TABLE);
