// Pure edits of what is laid on sheets: how, on which blanks, how often, and where each piece lies.

import { patchHandOver } from "./handOver";
import { patchNames } from "./nameList";
import type { Design, KeptFree, Laying, Placed } from "./types";

/** How it is laid where nobody said so yet. */
const LAYING: Laying = {
  copies: 1,
  quantities: [],
  margins: { left: 5, right: 5, top: 5, bottom: 5 },
  spacing: 2,
  overlap: 5,
  turning: "quarter",
  sizes: [],
  offcuts: [],
  placed: [],
  of: "",
  in_rows: false,
};

/** What is laid on sheets: the design, or all names of its list. */
export type Laid = "design" | "list";

export function layingOf(design: Design, of: Laid): Laying {
  const own = design.hand_over.laying ?? LAYING;
  // A list is laid at first as its design is, with nothing laid yet.
  const fresh = { ...own, copies: 1, quantities: [], placed: [], of: "" };
  return of === "design" ? own : (design.names?.laying ?? fresh);
}

function layAs(design: Design, of: Laid, laying: Laying | null): Design {
  return of === "design" ? patchHandOver(design, { laying }) : patchNames(design, { laying });
}

export function patchLaying(design: Design, of: Laid, change: Partial<Laying>): Design {
  return layAs(design, of, { ...layingOf(design, of), ...change });
}

/** Nothing is laid on sheets any more. */
export const withoutSheets = (design: Design, of: Laid): Design => layAs(design, of, null);

export type Size = { width: number; height: number };
type SheetSize = Laying["sizes"][number];

/** Something else of the sheets of a material; where the document has none for it yet, they are as large as usual. */
export function setSheet(
  design: Design,
  of: Laid,
  material: string,
  change: Partial<Omit<SheetSize, "material">>,
  usual: Size,
): Design {
  const { sizes } = layingOf(design, of);
  const fresh = { material, width: usual.width, height: usual.height, kept_free: [] };
  const before = sizes.find((one) => one.material === material) ?? fresh;
  const rest = sizes.filter((one) => one.material !== material);
  return patchLaying(design, of, { sizes: [...rest, { ...before, ...change }] });
}

/** What is kept free of each sheet of a material. */
export function keptFreeOf(laying: Laying, material: string): KeptFree[] {
  return laying.sizes.find((one) => one.material === material)?.kept_free ?? [];
}

/** One box that is kept free, at an index or after all others; without a box it is taken away. */
export function setKeptFree(
  design: Design,
  of: Laid,
  material: string,
  index: number,
  box: KeptFree | null,
  usual: Size,
): Design {
  const kept = keptFreeOf(layingOf(design, of), material).slice();
  kept.splice(index, 1, ...(box ? [box] : []));
  return setSheet(design, of, material, { kept_free: kept }, usual);
}

/** A new offcut of a material: a box of half a sheet, to be drawn as it is. */
export function addOffcut(design: Design, of: Laid, material: string, { width, height }: Size): Design {
  const outline: Offcut["outline"] = [
    [0, 0],
    [width / 2, 0],
    [width / 2, height / 2],
    [0, height / 2],
  ];
  return patchLaying(design, of, { offcuts: [...layingOf(design, of).offcuts, { material, outline }] });
}

type Offcut = Laying["offcuts"][number];

/** Other corners of an offcut; without any it is taken away. */
export function setOffcut(
  design: Design,
  of: Laid,
  index: number,
  outline: Offcut["outline"] | null,
): Design {
  const offcuts = layingOf(design, of).offcuts.slice();
  const before = offcuts[index];
  if (!before) return design;
  offcuts.splice(index, 1, ...(outline ? [{ ...before, outline }] : []));
  return patchLaying(design, of, { offcuts });
}

/** How many of a layer's pieces, or of one of them, are laid for each copy. */
export function quantityOf({ quantities }: Laying, layer: string, piece: number | null): number {
  return quantities.find((one) => one.layer === layer && one.piece === piece)?.count ?? 1;
}

export function setQuantity(
  design: Design,
  of: Laid,
  layer: string,
  piece: number | null,
  count: number,
): Design {
  const rest = layingOf(design, of).quantities.filter((one) => one.layer !== layer || one.piece !== piece);
  return patchLaying(design, of, { quantities: count === 1 ? rest : [...rest, { layer, piece, count }] });
}

/** Something that is laid, elsewhere: there it stays when the others are laid anew. */
export function movePlaced(design: Design, of: Laid, index: number, change: Partial<Placed>): Design {
  const { placed } = layingOf(design, of);
  const one = placed[index];
  return one
    ? patchLaying(design, of, { placed: placed.with(index, { ...one, ...change, by_hand: true }) })
    : design;
}

/** All pieces may be laid elsewhere again. */
export function forgetByHand(design: Design, of: Laid): Design {
  const placed = layingOf(design, of).placed.map((one) => ({ ...one, by_hand: false }));
  return patchLaying(design, of, { placed });
}

/** What a picture of a blank shows, in the coordinates that its outline has. */
export type Frame = Size & { left: number; low: number };

/** A sheet, or one of the offcuts: pieces on it are measured from the lower left corner of the box around it. */
export type Blank = Frame & { title: string; offcut: number | null };

/** The blanks of a board: its offcuts, then whole sheets; what lies on one says which by its number. */
export function blankOf(laying: Laying, material: string, number: number, sheet: Size): Blank {
  const own = laying.offcuts.flatMap((one, index) => (one.material === material ? [{ one, index }] : []));
  const found = own[number];
  if (!found) {
    const title = `sheet ${number - own.length + 1}`;
    return { width: sheet.width, height: sheet.height, left: 0, low: 0, title, offcut: null };
  }
  const [xs, ys] = [found.one.outline.map(([x]) => x), found.one.outline.map(([, y]) => y)];
  const [left, low] = [Math.min(...xs), Math.min(...ys)];
  const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - low];
  return { width, height, left, low, title: `offcut ${number + 1}`, offcut: found.index };
}

/** How large the sheets of a board are: the server's answer is of a moment ago. */
export function sizeOf(
  laying: Laying,
  board: { material: string; width_mm: number; height_mm: number },
): Size {
  return (
    laying.sizes.find((one) => one.material === board.material) ?? {
      width: board.width_mm,
      height: board.height_mm,
    }
  );
}
