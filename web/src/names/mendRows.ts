// Mends of rows, each for its name alone: all of them together are one edit.

import { api } from "../api/client";
import { forRow, keepOwn } from "../document/nameList";
import type { Own } from "../document/types";
import { edit, now } from "../state/timeline";
import { attempt, fail } from "../ui/Failure";
import { say } from "../ui/toast";

const AT_ONCE = 4;

type How = { signal: AbortSignal; done: (count: number) => void };

/** Mend what rows have of a kind in a layer; what could not be is said. */
export async function mendRows(
  indices: number[],
  kind: string,
  layer: string | null,
  how: How = { signal: new AbortController().signal, done: () => undefined },
): Promise<void> {
  const before = now();
  const kept: Own[] = [];
  const told: string[] = [];
  const waiting = [...indices];
  const work = async () => {
    for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
      const request = { document: forRow(before, index), index: 0, number: index + 1, kind, layer };
      const made = await api.mendRow(request, how.signal);
      kept.push({ words: made.words, changes: made.changes });
      told.push(...made.told.map((sentence) => `${made.words}: ${sentence}`));
      how.done(kept.length);
    }
  };
  const worked = await attempt("names", () =>
    Promise.all(Array.from({ length: Math.min(AT_ONCE, indices.length) }, work)).catch((error) => {
      if (!how.signal.aborted) throw error;
    }),
  );
  if (!worked) return;
  if (now() !== before) {
    fail("names", "The design changed meanwhile, so nothing was mended. Try it again.");
    return;
  }
  edit((design) => keepOwn(design, kept));
  const more = told.length > 3 ? ` And ${told.length - 3} more.` : "";
  say(
    told.length > 0
      ? `${told.slice(0, 3).join(" ")}${more}`
      : `Mended for ${kept.length === 1 ? kept[0]?.words : `${kept.length} names`}.`,
  );
}
