// Every row of the list as it comes out: asked for a few at a time, kept while it stays the same.

import { useCallback, useEffect, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import type { components } from "../api/schema";
import { forRow, namesOf } from "../document/nameList";
import type { Design } from "../document/types";
import { useRested } from "../ui/rested";

export type Made = components["schemas"]["RowReply"];
export type Wall = { rows: (Made | null)[]; done: number; busy: boolean; problem: string };

const AT_ONCE = 2;
const REST = 500;

export function useWall(design: Design): Wall & { cancel: () => void; goOn: () => void } {
  const rested = useRested(design, REST);
  const kept = useRef(new Map<string, Made>());
  const gone = useRef<AbortController | null>(null);
  const [wall, setWall] = useState<Wall>({ rows: [], done: 0, busy: false, problem: "" });

  const run = useCallback(async (document: Design) => {
    gone.current?.abort();
    const asked = new AbortController();
    gone.current = asked;
    const count = namesOf(document).rows.length;
    const keys = Array.from({ length: count }, (_, k) => JSON.stringify(forRow(document, k)));
    const rows = keys.map((key) => kept.current.get(key) ?? null);
    // What is no row any more is not wanted any more.
    kept.current = new Map([...kept.current].filter(([key]) => keys.includes(key)));
    const waiting = rows.flatMap((one, k) => (one ? [] : [k]));
    const show = (busy: boolean, problem = "") => {
      const done = rows.filter(Boolean).length;
      if (!asked.signal.aborted) setWall({ rows: [...rows], done, busy, problem });
    };
    show(waiting.length > 0);
    const work = async () => {
      for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
        const made = await api.listRow({ document: forRow(document, index), index: 0 }, asked.signal);
        kept.current.set(keys[index] ?? "", made);
        rows[index] = made;
        show(true);
      }
    };
    try {
      await Promise.all(Array.from({ length: AT_ONCE }, work));
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
