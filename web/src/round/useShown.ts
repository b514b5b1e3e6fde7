// The meshes of the newest document: quick ones while something changes, as exact as they leave once it rests.

import { useEffect, useState } from "react";
import { Problem } from "../api/answers";
import type { Design } from "../document/types";
import { comesFirst } from "../state/building";
import { now, whenChanged } from "../state/timeline";
import { Meshes, type Shown } from "./meshes";

const REST = 250;
/** Nobody sees a frame of a page that is in the background: longer than this (ms) it is not waited for. */
const FRAME = 200;

export function useShown(): { shown: Shown | null; problem: string } {
  const [shown, setShown] = useState<Shown | null>(null);
  const [problem, setProblem] = useState("");

  useEffect(() => {
    const meshes = new Meshes();
    let closed = false;
    let asked: Design | null = null;
    let asking = false;
    let going: Promise<unknown> = Promise.resolve();
    let rest: ReturnType<typeof setTimeout> | undefined;
    let exact = new AbortController();
    const ask = async (finely: boolean, signal: AbortSignal) => {
      const wanted = now();
      try {
        const answer = await meshes.ask(wanted, finely, signal);
        if (closed) return;
        setShown(answer);
        setProblem("");
      } catch (error) {
        if (closed || signal.aborted) return;
        setProblem(error instanceof Problem ? error.sentence : "The server does not answer.");
      }
      return wanted;
    };
    const one = async (): Promise<void> => {
      asking = true;
      const done = await ask(false, new AbortController().signal);
      asking = false;
      // One at a time, always of the newest: what came in meanwhile is asked next.
      if (done && done !== now()) going = one();
      await drawn();
    };
    const follow = (): Promise<unknown> => {
      if (asked === now()) return going;
      asked = now();
      clearTimeout(rest);
      exact.abort();
      exact = new AbortController();
      const { signal } = exact;
      rest = setTimeout(() => void ask(true, signal), REST);
      if (!asking) going = one();
      return going;
    };
    void follow();
    // Straight from the store: the request is on its way while the fields are still being drawn.
    const stops = [whenChanged(() => void follow()), comesFirst(follow)];
    return () => {
      closed = true;
      for (const stop of stops) stop();
      clearTimeout(rest);
      exact.abort();
      meshes.close();
    };
  }, []);

  return { shown, problem };
}

/** Once what was set is on the screen. */
const drawn = () =>
  Promise.race([
    new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))),
    new Promise((done) => setTimeout(done, FRAME)),
  ]);
