// A cut through the relief along a line: as it is carved, and as it is wanted.

import { useQuery } from "@tanstack/react-query";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import type { Design } from "../document/types";
import { length } from "../document/units";
import { useUnit } from "../state/timeline";
import { NumberField } from "../ui/NumberField";
import { useRested } from "../ui/rested";

export type Line = { start: [number, number]; end: [number, number] };

type Props = {
  design: Design;
  levels: number[];
  line: Line;
  thickness: number;
  onLine: (line: Line) => void;
};

const WIDE = 560;
const HIGH = 110;
const PLACES = 600;

export function SectionPanel({ design, levels, line, thickness, onLine }: Props) {
  const unit = useUnit();
  const rested = useRested(design);
  const { data, error } = useQuery({
    queryKey: ["section", levels, line, JSON.stringify([rested.art, rested.layers, rested.carving])],
    queryFn: ({ signal }) => api.section({ document: rested, levels, ...line, places: PLACES }, signal),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    retry: false,
    placeholderData: (before) => before,
  });
  const far = data?.along_mm.at(-1) ?? 0;
  const deep = Math.max(1, ...(data?.carved_mm ?? []).map((z) => -z));
  const shown = Math.min(thickness, deep * 1.5);
  const [perX, perY] = [WIDE / Math.max(far, 0.1), HIGH / shown];
  const times = perY / perX;
  const path = (heights: number[]) =>
    heights
      .map((z, k) => `${((data?.along_mm[k] ?? 0) * perX).toFixed(2)},${(-z * perY).toFixed(2)}`)
      .join(" ");
  const end = (which: "start" | "end", axis: 0 | 1, label: string) => (
    <NumberField
      inline
      label={label}
      value={Math.round(line[which][axis] * 100) / 100}
      unit={unit}
      min={-10_000}
      max={10_000}
      onChange={(value) =>
        onLine({ ...line, [which]: axis === 0 ? [value, line[which][1]] : [line[which][0], value] })
      }
    />
  );
  return (
    <section
      aria-label="Cross-section"
      className="absolute bottom-14 left-3 w-[600px] max-w-[calc(100%-1.5rem)] rounded-xl border border-line bg-sheet px-4 py-2 shadow-black/10 shadow-md"
    >
      <p className="leading-7">
        From {end("start", 0, "Section: x of its start")}, {end("start", 1, "Section: y of its start")} to{" "}
        {end("end", 0, "Section: x of its end")}, {end("end", 1, "Section: y of its end")}
        <span className="text-soft text-xs"> or click two places on the board.</span>
      </p>
      {data && (
        <svg
          role="img"
          aria-label={`The board cut through, ${length(deep, unit)} deep at the deepest`}
          viewBox={`0 -4 ${WIDE} ${HIGH + 8}`}
          className="w-full"
          data-testid="section"
        >
          <polygon
            points={`${path(data.carved_mm)} ${WIDE},${HIGH} 0,${HIGH}`}
            className="fill-glow/35 stroke-none"
          />
          <polyline
            points={path(data.wanted_mm)}
            className="fill-none stroke-alarm"
            strokeWidth={1}
            strokeDasharray="5 4"
          />
          <polyline points={path(data.carved_mm)} className="fill-none stroke-ink" strokeWidth={1.4} />
        </svg>
      )}
      {data && (
        <p className="text-soft text-xs">
          {length(far, unit)} long, {length(deep, unit)} deep at most; heights are drawn {times.toFixed(1)}{" "}
          times as large. Dashed: as wanted.
        </p>
      )}
      {error && (
        <p role="alert" className="text-alarm">
          {error instanceof Problem ? error.sentence : "The section cannot be shown."}
        </p>
      )}
    </section>
  );
}
