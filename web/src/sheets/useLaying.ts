// The search for a layout: asked for, waited for, given up.

import { useEffect, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { type Laid, patchLaying } from "../document/handOver";
import { edit, now } from "../state/timeline";

export function useLaying(of: Laid, name: string) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const waiting = useRef<AbortController | null>(null);
  useEffect(() => () => waiting.current?.abort(), []);

  const lay = async () => {
    const asked = new AbortController();
    waiting.current = asked;
    const before = now();
    setBusy(true);
    setTrouble("");
    try {
      const laid = await api.lay(before, of, asked.signal, name);
      if (now() === before) edit((design) => patchLaying(design, of, laid));
      else setTrouble("The design changed meanwhile. Lay out again.");
    } catch (error) {
      if (asked.signal.aborted) return;
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };
  return { lay, busy, trouble, cancel: () => waiting.current?.abort() };
}
