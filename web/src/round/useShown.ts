// The meshes of the newest document: quick ones while something changes, as exact as they leave once it rests.

import { useEffect, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { useDesign } from "../state/timeline";
import { Meshes, type Shown } from "./meshes";

const REST = 250;

export function useShown(): { shown: Shown | null; problem: string } {
  const design = useDesign();
  const newest = useRef(design);
  const meshes = useRef<Meshes | null>(null);
  const asking = useRef(false);
  const [shown, setShown] = useState<Shown | null>(null);
  const [problem, setProblem] = useState("");

  useEffect(() => {
    const held = new Meshes();
    meshes.current = held;
    return () => {
      meshes.current = null;
      held.close();
    };
  }, []);

  useEffect(() => {
    newest.current = design;
    const gone = new AbortController();
    const ask = async (exact: boolean, signal: AbortSignal) => {
      const wanted = newest.current;
      try {
        const answer = await meshes.current?.ask(wanted, exact, signal);
        if (answer && meshes.current) {
          setShown(answer);
          setProblem("");
        }
      } catch (error) {
        if (signal.aborted) return;
        setProblem(error instanceof Problem ? error.sentence : "The server does not answer.");
      }
      return wanted;
    };
    // One at a time, always of the newest: what came in meanwhile is asked next.
    const follow = async () => {
      if (asking.current) return;
      asking.current = true;
      let done = await ask(false, new AbortController().signal);
      while (done && done !== newest.current && meshes.current)
        done = await ask(false, new AbortController().signal);
      asking.current = false;
    };
    void follow();
    const rest = setTimeout(() => void ask(true, gone.signal), REST);
    return () => {
      clearTimeout(rest);
      gone.abort();
    };
  }, [design]);

  return { shown, problem };
}
