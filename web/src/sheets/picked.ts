// What is picked on the sheets: a piece, a box that is kept free, or a corner of an offcut.

export type Picked =
  | { kind: "piece"; index: number }
  | { kind: "free"; material: string; index: number }
  | { kind: "corner"; offcut: number; index: number };

export type Pick = (picked: Picked | null) => void;

export function isPicked(picked: Picked | null, other: Picked): boolean {
  return JSON.stringify(picked) === JSON.stringify(other);
}

/** How far an arrow key moves what is picked, in mm. */
export const STEP = 1;
