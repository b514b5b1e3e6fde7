// The relief as the server sends it, and what is looked up in it.

export type Fault = { area_mm2: number; most_mm: number; at: [number, number] | null };

type Head = {
  x: number;
  y: number;
  cell: number;
  columns: number;
  rows: number;
  gouged: Fault;
  left: Fault;
};

/** Heights and how much higher they are than wanted, row by row from below, in mm. */
export type Relief = Head & { heights: Float32Array; off: Float32Array };

export function readRelief(data: ArrayBuffer): Relief {
  const length = new DataView(data).getUint32(0, true);
  const head: Head = JSON.parse(new TextDecoder().decode(new Uint8Array(data, 4, length)));
  const size = head.columns * head.rows;
  return {
    ...head,
    heights: new Float32Array(data, 4 + length, size),
    off: new Float32Array(data, 4 + length + 4 * size, size),
  };
}

/** The cell at a place, in mm; null outside. */
export function cellAt({ x, y, cell, columns, rows }: Relief, px: number, py: number): number | null {
  const column = Math.round((px - x) / cell);
  const row = Math.round((py - y) / cell);
  return column < 0 || row < 0 || column >= columns || row >= rows ? null : row * columns + column;
}
