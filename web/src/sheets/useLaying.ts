// The search for a layout: asked for, waited for, given up.

import { useEffect, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { patchLaying } from "../document/handOver";
import { edit, now } from "../state/timeline";

export function useLaying() {
  const [busy, setBusy] = useState(false);
  const [passed, setPassed] = useState(0);
  const [trouble, setTrouble] = useState("");
  const waiting = useRef<AbortController | null>(null);
  useEffect(() => () => waiting.current?.abort(), []);
  useEffect(() => {
    if (!busy) return;
    const from = performance.now();
    const timer = setInterval(() => setPassed((performance.now() - from) / 1000), 100);
    return () => clearInterval(timer);
  }, [busy]);

  const lay = async () => {
    const asked = new AbortController();
    waiting.current = asked;
    const before = now();
    setBusy(true);
    setPassed(0);
    setTrouble("");
    try {
      const laid = await api.lay(before, asked.signal);
      if (now() === before) edit((design) => patchLaying(design, laid));
      else setTrouble("The design changed meanwhile. Lay out again.");
    } catch (error) {
      if (asked.signal.aborted) return;
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };
  return { lay, busy, passed, trouble, cancel: () => waiting.current?.abort() };
}
