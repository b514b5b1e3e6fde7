// Letters are counted as a maker counts them (extended grapheme clusters). What was set for a letter stays with it when
// the text around it is edited, and goes when the letter goes.

import type { Lettering } from "./types";

const segmenter = new Intl.Segmenter(undefined, { granularity: "grapheme" });

/** User-perceived characters of a text, in order. */
export function graphemes(text: string): string[] {
  return Array.from(segmenter.segment(text), (one) => one.segment);
}

/** A stretch of the old text that was replaced: from `start` to `end`, in UTF-16 units. */
type Cut = { start: number; end: number };

/**
 * Change the text, with everything that was set for single letters carried along.
 *
 * @param caret where the caret stands after the edit, and `selected` what was selected before it: they tell which of
 *   several equal letters was taken out or put in.
 */
export function retext(art: Lettering, text: string, caret: number, selected: Cut | null): Lettering {
  if (text === art.text) return art;
  const moved = movedLetters(art.text, text, caret, selected);
  const follow = <T>(set: Record<string, T>): Record<string, T> =>
    Object.fromEntries(
      Object.entries(set).flatMap(([index, value]) => {
        const to = moved.get(Number(index));
        return to === undefined ? [] : [[String(to), value]];
      }),
    );
  const join = art.join && {
    ...art.join,
    apart: art.join.apart.flatMap((index) => moved.get(index) ?? []),
  };
  const set = { nudges: follow(art.nudges), moves: follow(art.moves), lowered: follow(art.lowered) };
  return { ...art, text, ...set, join };
}

/** Where each letter of the old text is in the new one; letters that were taken out are not in the map. */
export function movedLetters(
  before: string,
  after: string,
  caret: number,
  selected: Cut | null,
): Map<number, number> {
  const { start, end } = replaced(before, after, caret, selected);
  const grown = after.length - before.length;
  const places = new Map<number, number>();
  let at = 0;
  graphemes(after).forEach((letter, index) => {
    places.set(at, index);
    at += letter.length;
  });
  const moved = new Map<number, number>();
  at = 0;
  graphemes(before).forEach((letter, index) => {
    const kept = at < start ? at : at >= end ? at + grown : null;
    const to = kept === null ? undefined : places.get(kept);
    if (to !== undefined) moved.set(index, to);
    at += letter.length;
  });
  return moved;
}

/** Which stretch of the old text the edit replaced. */
function replaced(before: string, after: string, caret: number, selected: Cut | null): Cut {
  const grown = after.length - before.length;
  // What follows the caret is unchanged by typing, deleting and pasting.
  const fits = (cut: Cut) =>
    cut.start <= cut.end &&
    cut.end + grown >= cut.start &&
    before.slice(0, cut.start) === after.slice(0, cut.start) &&
    before.slice(cut.end) === after.slice(cut.end + grown);
  const end = before.length - (after.length - caret);
  const typed: Cut = { start: selected ? Math.min(selected.start, end, caret) : Math.min(end, caret), end };
  if (selected && selected.end === end && fits(typed)) return typed;
  const shared = { start: commonPrefix(before, after, Math.min(end, caret)), end: Math.max(end, 0) };
  if (fits(shared)) return shared;
  // Something else changed the text, such as a drop from elsewhere.
  const start = commonPrefix(before, after, Math.min(before.length, after.length));
  let tail = 0;
  const most = Math.min(before.length, after.length) - start;
  while (tail < most && before.at(-1 - tail) === after.at(-1 - tail)) tail++;
  return { start, end: before.length - tail };
}

function commonPrefix(a: string, b: string, most: number): number {
  let n = 0;
  while (n < most && a[n] === b[n]) n++;
  return n;
}
