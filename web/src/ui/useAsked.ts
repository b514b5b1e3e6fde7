// Something that is asked for and takes a while: whether it is under way, what went wrong, and giving it up.

import { useRef, useState } from "react";
import { Problem } from "../api/answers";

export function useAsked() {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const asked = useRef<AbortController | null>(null);
  const ask = async (work: (signal: AbortSignal) => Promise<void>) => {
    const own = new AbortController();
    asked.current = own;
    setBusy(true);
    setTrouble("");
    try {
      await work(own.signal);
    } catch (error) {
      if (own.signal.aborted) return;
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };
  return { ask, busy, trouble, setTrouble, cancel: () => asked.current?.abort() };
}
