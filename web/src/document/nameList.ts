// Pure edits of a design's list: its rows, what its columns are for, how words are made to fit.

import { FIT, NAMES } from "../api/facts";
import type { Column, Design, Fit, Lettering, Names, Own } from "./types";

/** Rows of a list at most, as the document has it. */
export const MOST_ROWS = 2_000;

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

/** The list without a block of words, or a layer: a column that was for it is for nothing then. */
export function forgetWords(names: Names | null, id: string): Names | null {
  if (!names) return null;
  const columns = names.columns.map((one) =>
    one.art === id || one.layer === id ? { ...one, use: "nothing" as const, art: null, layer: null } : one,
  );
  return { ...names, columns, fits: names.fits.filter((one) => one.art !== id) };
}

/** Cells of the list with other texts, to the right of one and down; what is beyond its rows adds some, up to the most. */
export function setCells(design: Design, row: number, column: number, cells: string[][]): Design {
  const names = namesOf(design);
  const width = Math.max(names.columns.length, 1);
  const rows = [...names.rows];
  for (const [down, own] of cells.slice(0, MOST_ROWS - row).entries()) {
    const there = rows[row + down] ?? Array<string>(width).fill("");
    const changed = there.map((text, k) => own[k - column] ?? text);
    rows[row + down] = changed.slice(0, width);
  }
  return patchNames(design, { rows });
}

export function dropRow(design: Design, row: number): Design {
  return patchNames(design, { rows: namesOf(design).rows.toSpliced(row, 1) });
}

export function addColumn(design: Design): Design {
  const { columns, rows } = namesOf(design);
  const blank: Column = { title: "", use: "nothing", art: null, layer: null };
  return patchNames(design, { columns: [...columns, blank], rows: rows.map((row) => [...row, ""]) });
}

/** What is different for names alone, in place of what was; no changes take it away. */
export function keepOwn(design: Design, kept: Own[]): Design {
  const words = new Set(kept.map((one) => one.words));
  const rest = namesOf(design).own.filter((one) => !words.has(one.words));
  return patchNames(design, { own: [...rest, ...kept.filter((one) => one.changes.length > 0)] });
}

/** The rows as text to edit, with tabs between columns. */
export const asText = ({ rows }: Names): string => rows.map((row) => row.join("\t")).join("\n");

/** What a row is called: all its words, as the server has it. */
export function calledOf(names: Names, index: number): string {
  const row = names.rows[index] ?? [];
  const blocks = new Map<string, string[]>();
  for (const [k, column] of names.columns.entries()) {
    const text = row[k]?.trim();
    if (column.use === "words" && column.art)
      blocks.set(column.art, [...(blocks.get(column.art) ?? []), ...(text ? [text] : [])]);
  }
  const words = [...blocks.values()].map((texts) => texts.join(" ")).filter(Boolean);
  return words.join(" ").replaceAll("\n", " ") || `row ${index + 1}`;
}

/** The document with one row of its list alone: what asks for that row need not send all others. */
export function forRow(design: Design, index: number): Design {
  const names = namesOf(design);
  const words = calledOf(names, index);
  const own = names.own.filter((one) => one.words === words);
  return { ...design, names: { ...names, rows: names.rows.slice(index, index + 1), own, laying: null } };
}

/** What a row depends on: what all share, and its own. */
export function rowKeys(design: Design): { shared: string; keys: string[] } {
  const names = namesOf(design);
  const { art, layers, materials, colour_ways, unit, accepted, sheet, carving } = design;
  const shared = JSON.stringify([
    [art, layers, materials, colour_ways, unit, accepted, sheet, carving],
    [names.columns, names.fits],
  ]);
  const own = new Map(names.own.map((one) => [one.words, JSON.stringify(one.changes)]));
  const keys = names.rows.map((row, k) => JSON.stringify([row, own.get(calledOf(names, k)) ?? ""]));
  return { shared, keys };
}
