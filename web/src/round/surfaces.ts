// What materials are like, drawn by ourselves: grain, fibres and brush strokes as small pictures, gloss as numbers.

import { CanvasTexture, RepeatWrapping, SRGBColorSpace, type Texture } from "three";
import type { Material } from "../api/client";

export type Surface = Material["surface"];

type Finish = { roughness: number; metalness: number; grain?: Surface };

export const FINISH: Record<Surface, Finish> = {
  matt: { roughness: 0.7, metalness: 0 },
  gloss: { roughness: 0.16, metalness: 0 },
  mirror: { roughness: 0.04, metalness: 1 },
  wood: { roughness: 0.75, metalness: 0, grain: "wood" },
  felt: { roughness: 1, metalness: 0, grain: "felt" },
  paper: { roughness: 0.95, metalness: 0, grain: "paper" },
  metal: { roughness: 0.32, metalness: 1, grain: "metal" },
};

const SIDE = 512;
const made = new Map<Surface, Texture>();

/** The picture that a surface's colour is multiplied with; none where it is even. */
export function grainOf(surface: Surface): Texture | null {
  const { grain } = FINISH[surface];
  if (!grain) return null;
  const known = made.get(grain);
  if (known) return known;
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = SIDE;
  const pen = canvas.getContext("2d");
  if (pen) {
    pen.fillStyle = "#fff";
    pen.fillRect(0, 0, SIDE, SIDE);
    DRAW[grain]?.(pen, dice(7));
  }
  const texture = new CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 4;
  made.set(grain, texture);
  return texture;
}

/** Forgets them all, once nobody looks. */
export function forgetGrain(): void {
  for (const texture of made.values()) texture.dispose();
  made.clear();
}

type Dice = () => number;

/** The same numbers each time (a linear congruential generator, Numerical Recipes). */
function dice(seed: number): Dice {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const DRAW: Partial<Record<Surface, (pen: CanvasRenderingContext2D, roll: Dice) => void>> = {
  wood: (pen, roll) => {
    // Long lines along the sheet that wander a little: whole waves, so that the picture joins to itself.
    for (let line = 0; line < 150; line++) {
      const y = roll() * SIDE;
      const wave = 2 + roll() * 9;
      const turns = 1 + Math.floor(roll() * 3);
      const begin = roll() * Math.PI * 2;
      pen.strokeStyle = `rgba(70, 35, 10, ${0.04 + roll() * 0.11})`;
      pen.lineWidth = 0.6 + roll() * 2.6;
      for (const up of [-SIDE, 0, SIDE]) {
        pen.beginPath();
        for (let x = 0; x <= SIDE; x += 16)
          pen.lineTo(x, y + up + wave * Math.sin(begin + (x / SIDE) * Math.PI * 2 * turns));
        pen.stroke();
      }
    }
  },
  felt: (pen, roll) => {
    for (let fibre = 0; fibre < 9000; fibre++) {
      const [x, y, way] = [roll() * SIDE, roll() * SIDE, roll() * Math.PI * 2];
      pen.strokeStyle = roll() < 0.5 ? "rgba(0, 0, 0, 0.1)" : "rgba(255, 255, 255, 0.5)";
      pen.beginPath();
      pen.moveTo(x, y);
      pen.lineTo(x + 9 * Math.cos(way), y + 9 * Math.sin(way));
      pen.stroke();
    }
  },
  paper: (pen, roll) => {
    for (let speck = 0; speck < 5000; speck++) {
      pen.fillStyle = `rgba(60, 50, 40, ${roll() * 0.06})`;
      pen.fillRect(roll() * SIDE, roll() * SIDE, 1 + roll() * 2, 1 + roll() * 2);
    }
  },
  metal: (pen, roll) => {
    for (let stroke = 0; stroke < 900; stroke++) {
      pen.fillStyle =
        roll() < 0.5 ? `rgba(0, 0, 0, ${roll() * 0.07})` : `rgba(255, 255, 255, ${roll() * 0.2})`;
      pen.fillRect(0, roll() * SIDE, SIDE, 1);
    }
  },
};
