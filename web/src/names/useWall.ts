// Every row of the list as it comes out: asked for a few at a time, kept while it stays the same.

import { useCallback, useEffect, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import type { components } from "../api/schema";
import { forRow, namesOf, rowKeys } from "../document/nameList";
import type { Design } from "../document/types";
import { useRested } from "../ui/rested";

export type Made = components["schemas"]["RowReply"];
export type Wall = { rows: (Made | null)[]; done: number; busy: boolean; problem: string };

const AT_ONCE = 4;
const REST = 500;
/** Rows that are done are shown this often, in milliseconds: each time all of them are sorted. */
const SHOWN = 200;

export function useWall(design: Design): Wall & { cancel: () => void; goOn: () => void } {
  const rested = useRested(design, REST);
  const kept = useRef({ shared: "", rows: new Map<string, Made>() });
  const gone = useRef<AbortController | null>(null);
  const [wall, setWall] = useState<Wall>({ rows: [], done: 0, busy: false, problem: "" });

  const run = useCallback(async (document: Design) => {
    gone.current?.abort();
    const asked = new AbortController();
    gone.current = asked;
    const { shared, keys } = rowKeys(document);
    const known = kept.current.shared === shared ? kept.current.rows : new Map<string, Made>();
    const rows = keys.map((key) => known.get(key) ?? null);
    // What is no row any more is not wanted any more.
    kept.current = { shared, rows: new Map([...known].filter(([key]) => keys.includes(key))) };
    const waiting = rows.flatMap((one, k) => (one ? [] : [k]));
    let shown = 0;
    const show = (busy: boolean, problem = "") => {
      if (asked.signal.aborted || (busy && performance.now() - shown < SHOWN)) return;
      shown = performance.now();
      setWall({ rows: [...rows], done: rows.filter(Boolean).length, busy, problem });
    };
    show(waiting.length > 0);
    const work = async () => {
      for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
        const request = { document: forRow(document, index), index: 0, number: index + 1 };
        const made = await api.listRow(request, asked.signal);
        kept.current.rows.set(keys[index] ?? "", made);
        rows[index] = made;
        show(true);
      }
    };
    try {
      await Promise.all(Array.from({ length: Math.min(AT_ONCE, namesOf(document).rows.length) }, work));
      show(false);
    } catch (error) {
      if (asked.signal.aborted) return;
      show(false, error instanceof Problem ? error.sentence : "The server does not answer.");
      asked.abort();
    }
  }, []);

  useEffect(() => {
    void run(rested);
    return () => gone.current?.abort();
  }, [rested, run]);

  return {
    ...wall,
    cancel: () => {
      gone.current?.abort();
      setWall((before) => ({ ...before, busy: false }));
    },
    goOn: () => void run(rested),
  };
}
