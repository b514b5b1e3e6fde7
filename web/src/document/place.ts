// Where blocks of words and single letters stand: moves, turns, stretches, lining up. Plain arithmetic on the document;
// extents come from the server's reply. Boxes are [min x, min y, max x, max y] in mm, y up.

import { graphemes } from "./letters";
import type { Design, Lettering, LetterMove, Place } from "./types";

export type Point = { x: number; y: number };
export type Box = readonly [number, number, number, number];

const SMALLEST = 0.02;

/** A point of a block's own coordinates, as placed. */
export function placed(place: Place, at: Point): Point {
  const turned = turn({ x: at.x * place.scale_x, y: at.y * place.scale_y }, place.rotate);
  return { x: turned.x + place.x, y: turned.y + place.y };
}

/** A distance on the stage in a block's own directions and scale. */
export function unplaced(place: Place, by: Point): Point {
  const back = turn(by, -place.rotate);
  return { x: back.x / (place.scale_x || 1), y: back.y / (place.scale_y || 1) };
}

export function turn({ x, y }: Point, degrees: number): Point {
  const angle = (degrees * Math.PI) / 180;
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: c * x - s * y, y: s * x + c * y };
}

/** Turn about the middle of the block. */
export function turned(place: Place, box: Box, rotate: number): Place {
  const middle = { x: (box[0] + box[2]) / 2, y: (box[1] + box[3]) / 2 };
  return anchored(
    { ...place, rotate: round(((rotate + 540) % 360) - 180, 3) },
    middle,
    placed(place, middle),
  );
}

/**
 * Stretch by dragging a handle of the frame: `handle` and its opposite are in the block's own coordinates (the middle of
 * a side leaves the other direction alone), `to` is where the handle is wanted.
 */
export function stretched(place: Place, handle: Point, opposite: Point, to: Point, free: boolean): Place {
  const still = placed(place, opposite);
  const wanted = turn({ x: to.x - still.x, y: to.y - still.y }, -place.rotate);
  const now = {
    x: (handle.x - opposite.x) * place.scale_x,
    y: (handle.y - opposite.y) * place.scale_y,
  };
  const alone = (along: "x" | "y") => (now[along] ? wanted[along] / now[along] : 1);
  const both = (wanted.x * now.x + wanted.y * now.y) / (now.x ** 2 + now.y ** 2 || 1);
  const [fx, fy] = free ? [alone("x"), alone("y")] : [both, both];
  const next = { ...place, scale_x: scaled(place.scale_x, fx), scale_y: scaled(place.scale_y, fy) };
  return anchored(next, opposite, still);
}

function scaled(scale: number, factor: number): number {
  const size = round(scale * factor, 4);
  return Math.abs(size) < SMALLEST ? SMALLEST * Math.sign(scale || 1) : Math.max(-100, Math.min(100, size));
}

/** The place with the own point `at` standing at `where`. */
function anchored(place: Place, at: Point, where: Point): Place {
  const now = placed(place, at);
  return { ...place, x: round(place.x + where.x - now.x, 4), y: round(place.y + where.y - now.y, 4) };
}

const STILL: LetterMove = { dx: 0, dy: 0, turn: 0, scale: 1 };

export function moveOf(art: Lettering, letter: number): LetterMove {
  return art.moves[letter] ?? STILL;
}

/** Whether a letter was moved, turned, resized, or nudged away from the one before. */
export function isMoved(art: Lettering, letter: number): boolean {
  return letter in art.moves || letter in art.nudges;
}

export function setMove(art: Lettering, letter: number, patch: Partial<LetterMove>): Lettering {
  const { [letter]: old, ...others } = art.moves;
  const move = { ...STILL, ...old, ...patch };
  const still = move.dx === 0 && move.dy === 0 && move.turn === 0 && move.scale === 1;
  return { ...art, moves: still ? others : { ...others, [letter]: move } };
}

function setNudge(art: Lettering, letter: number, by: number): Lettering {
  const { [letter]: _, ...others } = art.nudges;
  return { ...art, nudges: by === 0 ? others : { ...others, [letter]: by } };
}

/** Move letters by (x, y) mm of the block's own directions: alone, or one with all that follow on its line. */
export function moveLetters(art: Lettering, letters: number[], by: Point, following: boolean): Lettering {
  return letters.reduce((one, letter) => moveLetter(one, letter, by, following && letters.length === 1), art);
}

function moveLetter(art: Lettering, letter: number, by: Point, following: boolean): Lettering {
  const moved = (one: Lettering, index: number, x: number) => {
    const { dx, dy } = moveOf(one, index);
    return setMove(one, index, { dx: round(dx + x, 4), dy: round(dy + by.y, 4) });
  };
  if (!following) return moved(art, letter, by.x);
  const along = setNudge(art, letter, round((art.nudges[letter] ?? 0) + by.x, 4));
  return by.y === 0 ? along : rest(art.text, letter).reduce((one, index) => moved(one, index, 0), along);
}

/** The letter and those after it on its line. */
function rest(text: string, letter: number): number[] {
  const letters = graphemes(text);
  const found: number[] = [];
  for (let i = letter; i < letters.length && !/[\n\r\v\f\u0085\u2028\u2029]/.test(letters[i] ?? ""); i++)
    if (letters[i]?.trim()) found.push(i);
  return found;
}

/** Take back whatever was set for one letter. */
export function putBack(art: Lettering, letter: number): Lettering {
  return setNudge(setMove(art, letter, STILL), letter, 0);
}

export type Edge = "left" | "centre" | "right" | "top" | "middle" | "bottom";

/** Line up all blocks by an edge or middle of what they span together. */
export function linedUp(design: Design, boxes: Map<string, Box>, edge: Edge): Design {
  const across = edge === "left" || edge === "centre" || edge === "right";
  const [low, high] = across ? [0, 2] : [1, 3];
  const share = { left: 0, centre: 0.5, right: 1, bottom: 0, middle: 0.5, top: 1 }[edge];
  const all = [...boxes.values()];
  const at = (box: readonly number[]) => (box[low] ?? 0) + ((box[high] ?? 0) - (box[low] ?? 0)) * share;
  const goal = at([0, 1, 2, 3].map((k) => (k < 2 ? Math.min : Math.max)(...all.map((box) => box[k] ?? 0))));
  return shifted(design, boxes, (box) =>
    across ? { x: goal - at(box), y: 0 } : { x: 0, y: goal - at(box) },
  );
}

/** Move art until the middle of its box is that of another box, side to side and up and down. */
export function centredOn(design: Design, id: string, own: Box, target: Box): Design {
  const middle = (box: Box, low: 0 | 1) => (box[low] + box[(low + 2) as 2 | 3]) / 2;
  return shifted(design, new Map([[id, own]]), () => ({
    x: middle(target, 0) - middle(own, 0),
    y: middle(target, 1) - middle(own, 1),
  }));
}

/** Make the gaps between blocks equal, the outermost ones staying where they are. */
export function spread(design: Design, boxes: Map<string, Box>, across: boolean): Design {
  const [low, high] = across ? [0, 2] : [1, 3];
  const order = [...boxes].sort(([, a], [, b]) => (a[low] ?? 0) - (b[low] ?? 0));
  const size = ([, box]: [string, Box]) => (box[high] ?? 0) - (box[low] ?? 0);
  const [first, last] = [order[0]?.[1], order.at(-1)?.[1]];
  if (!first || !last || order.length < 3) return design;
  const room = (last[high] ?? 0) - (first[low] ?? 0) - order.reduce((sum, one) => sum + size(one), 0);
  let at = first[low] ?? 0;
  const shift = new Map<Box, number>();
  for (const one of order) {
    shift.set(one[1], at - (one[1][low] ?? 0));
    at += size(one) + room / (order.length - 1);
  }
  return shifted(design, boxes, (box) =>
    across ? { x: shift.get(box) ?? 0, y: 0 } : { x: 0, y: shift.get(box) ?? 0 },
  );
}

function shifted(design: Design, boxes: Map<string, Box>, by: (box: Box) => Point): Design {
  return {
    ...design,
    art: design.art.map((art) => {
      const box = boxes.get(art.id);
      if (!box) return art;
      const { x, y } = by(box);
      return { ...art, place: { ...art.place, x: round(art.place.x + x, 4), y: round(art.place.y + y, 4) } };
    }),
  };
}

/** The move that brings an edge or middle of a box onto one of the others', where one is near, along the given ways. */
export function snapped(
  box: Box,
  others: Box[],
  reach: number,
  along: { x: boolean; y: boolean },
): { by: Point; lines: { x?: number; y?: number } } {
  const lines: { x?: number; y?: number } = {};
  const onto = (low: 0 | 1) => {
    const marks = (one: Box) => [one[low], (one[low] + one[(low + 2) as 2 | 3]) / 2, one[(low + 2) as 2 | 3]];
    const goals = [...others.flatMap(marks), 0];
    let best = reach;
    let by = 0;
    for (const mark of marks(box))
      for (const goal of goals)
        if (Math.abs(goal - mark) < best) {
          best = Math.abs(goal - mark);
          by = goal - mark;
          lines[low === 0 ? "x" : "y"] = goal;
        }
    return by;
  };
  return { by: { x: along.x ? onto(0) : 0, y: along.y ? onto(1) : 0 }, lines };
}

export function round(value: number, decimals: number): number {
  return Number(value.toFixed(decimals));
}
