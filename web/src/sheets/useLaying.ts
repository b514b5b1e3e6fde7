// The search for a layout: asked for, waited for, given up.

import { useEffect, useRef } from "react";
import { api } from "../api/client";
import { type Laid, patchLaying } from "../document/laying";
import { edit, now } from "../state/timeline";
import { useAsked } from "../ui/useAsked";

export function useLaying(of: Laid, name: string) {
  const { ask, busy, trouble, setTrouble, cancel } = useAsked();
  const leave = useRef(cancel);
  leave.current = cancel;
  useEffect(() => () => leave.current(), []);

  /** Lay out anew; filled, with as many copies as the sheets take. */
  const lay = (fill = false) =>
    ask(async (signal) => {
      const before = now();
      const laid = await api.lay(before, of, fill, signal, name);
      if (now() === before) edit((design) => patchLaying(design, of, laid));
      else setTrouble("The design changed meanwhile. Lay out again.");
    });
  return { lay, busy, trouble, cancel };
}
