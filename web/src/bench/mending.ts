// A mend is run, and what it brings along is told once the shapes have been checked again.

import { useEffect, useRef } from "react";
import type { Finding, Mend } from "../api/client";
import { mended } from "../document/edit";
import type { Design } from "../document/types";
import { say } from "../ui/toast";
import type { Building } from "./building";
import { alike, isOpen } from "./findings";
import { current, edit, useBench } from "./history";

/** Runs a mend; one undo takes it back. */
export function useMending({ built }: Building): (mend: Mend) => void {
  const awaited = useRef<{ title: string; design: Design; before: Finding[] } | null>(null);
  useEffect(() => {
    const mend = awaited.current;
    if (!mend || !built?.checked) return;
    const newer = built.document !== mend.design;
    if (newer && current(useBench.getState()) === mend.design) return;
    awaited.current = null;
    if (newer) return;
    const brought = built.findings.filter(
      (one) => isOpen(one) && !mend.before.some((other) => alike(one, other)),
    );
    const [first] = brought;
    if (!first) return;
    const more = brought.length > 1 ? ` And ${brought.length - 1} more.` : "";
    say(`“${mend.title}” brings something new: ${first.sentence}${more}`, {
      label: "Undo",
      run: useBench.getState().undo,
    });
  }, [built]);
  return (mend) => {
    const before = built?.findings ?? [];
    edit((design) => mended(design, mend));
    awaited.current = { title: mend.title, design: current(useBench.getState()), before };
    say(`${mend.title}: done.`, { label: "Undo", run: useBench.getState().undo });
  };
}
