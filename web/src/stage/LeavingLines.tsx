// The look of cut lines: each layer in the colour it leaves with, and told apart by its process without colours, too.

import { LEAVING, type Leaves, leavingOf } from "../document/handOver";
import type { Layer } from "../document/types";
import { looksLike, useMaterials } from "../layers/catalogue";
import { usePart } from "../state/timeline";

/** Dashes of lines, and how areas are hatched, by process; in pixels. */
const DASHES: Partial<Record<Leaves, string>> = {
  through: "12 2 2 2",
  draw: "1 3",
  score: "7 3",
  engrave: "2 2",
  print: "8 3 2 3",
};
const HATCHES: Record<Leaves, string> = {
  cut: "M0,0V8",
  through: "M0,0V8M2,0V8",
  draw: "M0,2H8M0,6H8",
  score: "M0,0V8M4,0V8",
  engrave: "M-2,2L2,-2M0,8L8,0M6,10L10,6",
  print: "M3,4H5",
  carve: "M0,4H8",
};

type Props = { layer: Layer; path: string; scale: number };

export function LeavingLines({ layer, path, scale }: Props) {
  const leaving = usePart((design) => leavingOf(design, layer));
  const materials = useMaterials();
  if (!leaving) return null;
  const process = layer.process as Leaves;
  const colour = leaving.colour ?? looksLike(materials, layer).colour;
  return (
    <g fill="none">
      {/* A line is hard to hit: this one is wide and unseen. */}
      <path d={path} pointerEvents="stroke" vectorEffect="non-scaling-stroke" strokeWidth={11} />
      {leaving.draw === "area" ? (
        <>
          <Hatch id={`leaving-${layer.id}`} process={process} colour={colour} scale={1 / scale} />
          <path d={path} fill={`url(#leaving-${layer.id})`} />
          <path d={path} vectorEffect="non-scaling-stroke" strokeWidth={1} stroke={colour} />
        </>
      ) : (
        <>
          {/* An edge, for colours near that of the stage. */}
          <path
            d={path}
            vectorEffect="non-scaling-stroke"
            strokeWidth={3}
            className="stroke-ink/25"
            strokeDasharray={DASHES[process]}
          />
          <path
            d={path}
            data-leaving={process}
            vectorEffect="non-scaling-stroke"
            strokeWidth={1.4}
            stroke={colour}
            strokeDasharray={DASHES[process]}
          />
        </>
      )}
    </g>
  );
}

type HatchProps = { id: string; process: Leaves; colour: string; scale: number };

function Hatch({ id, process, colour, scale }: HatchProps) {
  return (
    <pattern id={id} patternUnits="userSpaceOnUse" width={8} height={8} patternTransform={`scale(${scale})`}>
      <path d={HATCHES[process]} stroke={colour} strokeWidth={1.2} strokeLinecap="round" />
    </pattern>
  );
}

/** What each line and hatch means, for the processes that the design has. */
export function LinesLegend() {
  const kinds = usePart((design) =>
    JSON.stringify(
      LEAVING.flatMap(([process, title]) => {
        const layer = design.layers.find((one) => !one.hidden && one.process === process);
        const leaving = layer && leavingOf(design, layer);
        return leaving ? [{ process, title, ...leaving }] : [];
      }),
    ),
  );
  const shown: { process: Leaves; title: string; draw: string; colour: string | null }[] = JSON.parse(kinds);
  return (
    <section
      aria-label="What the lines mean"
      className="pointer-events-none absolute bottom-4 left-10 flex max-w-[calc(100%-24rem)] max-[1100px]:bottom-16 max-[1100px]:max-w-[calc(100%-3rem)] flex-wrap gap-x-4 rounded-xl border border-line bg-sheet px-3 py-1.5 text-xs"
    >
      {shown.map(({ process, title, draw, colour }) => (
        <span key={process} className="flex items-center gap-1.5">
          <svg width="24" height="12" aria-hidden="true">
            {draw === "area" ? (
              <>
                <Hatch id={`legend-${process}`} process={process} colour={colour ?? "var(--ink)"} scale={1} />
                <rect
                  x={0.5}
                  y={0.5}
                  width={23}
                  height={11}
                  fill={`url(#legend-${process})`}
                  stroke={colour ?? "var(--ink)"}
                />
              </>
            ) : (
              <path
                d="M0,6H24"
                strokeWidth={1.6}
                stroke={colour ?? "var(--ink)"}
                strokeDasharray={DASHES[process]}
              />
            )}
          </svg>
          {title} {draw === "area" && "(area)"}
        </span>
      ))}
    </section>
  );
}
