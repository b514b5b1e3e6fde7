// The main screen: words and build sheet on the left, the stage on the right, findings along the bottom.

import { useDeferredValue, useEffect, useMemo } from "react";
import type { Font, Material } from "../api/client";
import { BuildSheet } from "./BuildSheet";
import { useBuilding } from "./building";
import { Conflict } from "./Conflict";
import { Catalogue } from "./catalogue";
import { FindingsStrip } from "./FindingsStrip";
import { useBench, usePart } from "./history";
import { MaterialPanel } from "./MaterialPanel";
import { Stage } from "./Stage";
import { StepCopies } from "./StepCopies";
import { TopEdge } from "./TopEdge";
import { TryRange, useForgetRange } from "./TryRange";
import { Words } from "./Words";

export function Bench({ fonts, materials }: { fonts: Font[]; materials: Material[] }) {
  const name = usePart((design) => design.name);
  const building = useBuilding();
  // Outlines first: what is told beside them follows once they are painted.
  const told = useDeferredValue(building);
  const catalogue = useMemo(() => ({ fonts, materials }), [fonts, materials]);
  useUndoKeys();
  useForgetRange();
  useEffect(() => {
    document.title = `${name || "Untitled"} – Tin Halo`;
    return () => {
      document.title = "Tin Halo";
    };
  }, [name]);

  return (
    <Catalogue value={catalogue}>
      <style>{fonts.map(fontFace).join("")}</style>
      <div className="grid h-full grid-cols-[352px_minmax(0,1fr)] grid-rows-[auto_auto_minmax(0,1fr)_auto]">
        <TopEdge building={told} />
        <Conflict />
        <aside
          aria-label="Words and layers"
          className="col-start-1 row-start-3 overflow-y-auto border-line border-r bg-paper"
        >
          <Words building={told} />
          <BuildSheet building={told} />
        </aside>
        <Stage building={building} />
        <FindingsStrip building={told} />
        <TryRange />
        <StepCopies />
        <MaterialPanel />
      </div>
    </Catalogue>
  );
}

/** Lets a font's name be shown in its own letters; the file is only fetched where that happens. */
function fontFace({ id }: Font): string {
  return `@font-face{font-family:"th-${id}";src:url("/api/fonts/${id}/file");font-display:block}`;
}

/** Undo and redo of the whole design, also while a field has the focus: fields have no history of their own here. */
function useUndoKeys() {
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== "z" && key !== "y") return;
      event.preventDefault();
      const bench = useBench.getState();
      if (key === "y" || event.shiftKey) bench.redo();
      else bench.undo();
    };
    addEventListener("keydown", keys);
    return () => removeEventListener("keydown", keys);
  }, []);
}
