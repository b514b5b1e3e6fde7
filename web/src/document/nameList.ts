// Pure edits of a design's list: its rows, what its columns are for, how words are made to fit.

import { FIT, NAMES } from "../api/facts";
import type { Column, Design, Fit, Lettering, Names } from "./types";

export const namesOf = (design: Design): Names => design.names ?? structuredClone(NAMES);

export function patchNames(design: Design, change: Partial<Names>): Design {
  return { ...design, names: { ...namesOf(design), ...change } };
}

/** Nothing is made for a list any more. */
export const withoutNames = (design: Design): Design => ({ ...design, names: null });

export function patchColumn(design: Design, index: number, change: Partial<Column>): Design {
  const columns = namesOf(design).columns.map((one, k) => (k === index ? { ...one, ...change } : one));
  return patchNames(design, { columns });
}

/** The blocks that a list's words can go to. */
export const blocksOf = (design: Design): Lettering[] =>
  design.art.filter((one): one is Lettering => one.kind === "lettering");

export const fitOf = (design: Design, art: string): Fit =>
  namesOf(design).fits.find((one) => one.art === art) ?? { ...FIT.starts, art };

export function patchFit(design: Design, art: string, change: Partial<Fit>): Design {
  const rest = namesOf(design).fits.filter((one) => one.art !== art);
  return patchNames(design, { fits: [...rest, { ...fitOf(design, art), ...change }] });
}

/** The list without a block of words: the column that was for it is for nothing then. */
export function forgetWords(names: Names | null, art: string): Names | null {
  if (!names) return null;
  const columns = names.columns.map((one) =>
    one.art === art ? { ...one, use: "nothing" as const, art: null } : one,
  );
  return { ...names, columns, fits: names.fits.filter((one) => one.art !== art) };
}

/** The rows as text to edit, with tabs between columns. */
export const asText = ({ rows }: Names): string => rows.map((row) => row.join("\t")).join("\n");

/** The document with one row of its list alone: what asks for that row need not send all others. */
export function forRow(design: Design, index: number): Design {
  const names = namesOf(design);
  return { ...design, names: { ...names, rows: names.rows.slice(index, index + 1) } };
}
