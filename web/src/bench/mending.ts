// A mend is run, and what it brings along is told once the shapes have been checked again.

import { useEffect, useRef } from "react";
import type { Finding, Mend } from "../api/client";
import { mended } from "../document/mend";
import type { Design } from "../document/types";
import type { Building } from "./building";
import { alike, isOpen } from "./findings";
import { current, edit, useBench } from "./history";
import { type Seeking, useSeeking } from "./seeking";
import { sayUndoable } from "./undoable";

export type Mending = { run: (mend: Mend) => void; seeking: Seeking };

/** Runs a mend; one undo takes it back. */
export function useMending({ built }: Building): Mending {
  const seeking = useSeeking();
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
    sayUndoable(`“${mend.title}” brings something new: ${first.sentence}${more}`, mend.design);
  }, [built]);
  const run = (mend: Mend) => {
    const find = mend.changes.find((change) => change.change === "find_place");
    if (find) {
      const { layer, step, least_area: area, least_width: width } = find;
      seeking.seek({ layer, step, area, width });
      return;
    }
    const before = built?.findings ?? [];
    useBench.setState({ spot: null });
    edit((design) => mended(design, mend));
    awaited.current = { title: mend.title, design: current(useBench.getState()), before };
    sayUndoable(`${mend.title}: done.`);
  };
  return { run, seeking };
}
