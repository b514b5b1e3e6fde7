// The bottom edge: what there is to look at, one sentence at a time.

import { ChevronLeft, ChevronRight, CircleCheck, TriangleAlert } from "lucide-react";
import { memo, useState } from "react";
import { IconButton } from "../ui/Button";
import type { Building } from "./building";
import { useBench, useDesign } from "./history";

export const FindingsStrip = memo(function FindingsStrip({ building }: { building: Building }) {
  const design = useDesign();
  const [at, setAt] = useState(0);
  const findings = building.built?.reply.findings ?? [];
  const index = Math.min(at, Math.max(0, findings.length - 1));
  const finding = findings[index];
  const pieces = building.built?.reply.layers.reduce((sum, layer) => sum + layer.pieces, 0) ?? 0;

  const go = (to: number) => {
    const next = (to + findings.length) % findings.length;
    setAt(next);
    const layer = findings[next]?.layer;
    if (layer) useBench.getState().select(layer);
  };

  return (
    <section
      aria-label="Findings"
      className="col-span-2 row-start-4 flex h-11 items-center gap-2 border-line border-t bg-sheet px-4"
    >
      {finding ? (
        <>
          <TriangleAlert size={17} aria-hidden="true" className="shrink-0 text-alarm" />
          <span className="shrink-0 font-semibold text-alarm">
            {findings.length === 1 ? "1 thing to look at" : `${index + 1} of ${findings.length}`}
          </span>
          <IconButton label="Previous finding" disabled={findings.length < 2} onClick={() => go(index - 1)}>
            <ChevronLeft size={17} />
          </IconButton>
          <IconButton label="Next finding" disabled={findings.length < 2} onClick={() => go(index + 1)}>
            <ChevronRight size={17} />
          </IconButton>
          <p role="status" title={finding.sentence} className="min-w-0 truncate">
            {finding.sentence}
          </p>
        </>
      ) : (
        <p role="status" className="flex items-center gap-2 text-soft">
          <CircleCheck size={17} aria-hidden="true" className="text-halo" />
          {building.built
            ? `Nothing to look at: ${design.layers.length} ${design.layers.length === 1 ? "layer" : "layers"}, ${pieces} ${pieces === 1 ? "piece" : "pieces"} in all.`
            : "Working out the outlines…"}
        </p>
      )}
    </section>
  );
});
