// Where the sheet lies under the job. Boxes are [min x, min y, max x, max y] in mm, y up.

import type { Box } from "./place";
import type { Sheet } from "./types";

type Size = Pick<Sheet, "width" | "height">;

/** A sheet of that size with the job in its middle. */
export function centred({ width, height }: Size, [x0, y0, x1, y1]: Box): Sheet {
  return { width, height, x: (x0 + x1 - width) / 2, y: (y0 + y1 - height) / 2 };
}

/** Another width or height: what lies in the middle or along an edge stays there, and nothing else of the sheet moves. */
export function resized(sheet: Sheet, side: "width" | "height", to: number, job: Box): Sheet {
  const [x0, y0, x1, y1] = job;
  const [low, high, corner] = side === "width" ? ([x0, x1, "x"] as const) : ([y0, y1, "y"] as const);
  const [extent, from] = [high - low, low - sheet[corner]];
  const free = sheet[side] - extent;
  const share = free === 0 ? 0.5 : from / free;
  // A job that is partly off the sheet stays where it is.
  const next = share < -1e-9 || share > 1 + 1e-9 ? from : share * (to - extent);
  return { ...sheet, [side]: to, [corner]: low - next };
}
