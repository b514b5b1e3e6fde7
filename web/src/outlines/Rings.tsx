// Every piece and hole of an outline, the largest first: taken on the stage by its row, deleted, filled or joined.

import { useMemo, useState } from "react";
import type { OutlineLook } from "../api/answers";
import { readRings, writeRings } from "../document/outline";
import type { OutlineArt } from "../document/types";
import { area } from "../document/units";
import { select, useSelection } from "../state/selection";
import { useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { editOutline } from "./turning";

/** So many are listed one by one. */
const MOST = 300;

export function Rings({ art, looked }: { art: OutlineArt; looked: OutlineLook }) {
  const unit = useUnit();
  const [width, setWidth] = useState(1);
  const nodes = useSelection((state) => state.nodes);
  const taken = useMemo(() => new Set(nodes), [nodes]);
  const paths = useMemo(() => readRings(art.path).map((ring) => writeRings([ring])), [art.path]);
  const rows = useMemo(
    () => looked.rings.map((ring, index) => ({ ...ring, index })).sort((a, b) => b.area_mm2 - a.area_mm2),
    [looked],
  );
  const all = (ring: { first: number; nodes: number }) =>
    Array.from({ length: ring.nodes }, (_, k) => ring.first + k);
  const whole = rows.filter((ring) => all(ring).every((node) => taken.has(node)));
  const pieces = whole.filter((ring) => ring.kind === "piece");
  const toggle = (ring: (typeof rows)[number], on: boolean) => {
    const own = all(ring);
    const rest = nodes.filter((node) => node < ring.first || node >= ring.first + ring.nodes);
    select({ picked: null, nodal: art.id, nodes: on ? [...rest, ...own] : rest });
  };
  const rings = whole.map((ring) => ring.index);
  const holes = whole.length - pieces.length;
  return (
    <details className="group">
      <summary className="cursor-pointer text-soft text-xs hover:text-ink">Pieces and holes</summary>
      <ul className="slim mt-1 max-h-52 overflow-y-auto">
        {rows.slice(0, MOST).map((ring) => (
          <li key={ring.index}>
            <label className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-bench">
              <input
                type="checkbox"
                checked={whole.includes(ring)}
                onChange={(event) => toggle(ring, event.target.checked)}
              />
              <RingPicture path={paths[ring.index] ?? ""} box={ring.box_mm} hole={ring.kind === "hole"} />
              <span className="flex-1">{ring.kind === "piece" ? "Piece" : "Hole"}</span>
              <span className="text-soft text-xs">{area(ring.area_mm2, unit)}</span>
            </label>
          </li>
        ))}
      </ul>
      {rows.length > MOST && (
        <p className="px-1 text-soft text-xs">
          {rows.length - MOST} smaller ones are not listed: drag round them.
        </p>
      )}
      {whole.length > 0 && (
        <div className="mt-1 flex flex-wrap items-center gap-1">
          <Button
            className="h-7 px-2"
            onClick={() => void editOutline(art.id, { op: "remove_rings", rings })}
          >
            {pieces.length === 0 ? "Fill" : holes === 0 ? "Delete" : "Delete and fill"}{" "}
            {whole.length === 1 ? "it" : `all ${whole.length}`}
          </Button>
          {pieces.length > 1 && (
            <span className="flex items-center gap-1">
              <Button
                className="h-7 px-2"
                title="Straight bars where they are nearest to each other"
                onClick={() =>
                  void editOutline(art.id, {
                    op: "join_pieces",
                    rings: pieces.map((ring) => ring.index),
                    width,
                  })
                }
              >
                Join
              </Button>
              with bars of
              <NumberField
                inline
                label="Width of the bars"
                value={width}
                unit={unit}
                min={0.05}
                max={1000}
                onChange={setWidth}
              />
            </span>
          )}
        </div>
      )}
    </details>
  );
}

type PictureProps = { path: string; box: readonly [number, number, number, number]; hole: boolean };

function RingPicture({ path, box: [x0, y0, x1, y1], hole }: PictureProps) {
  const size = Math.max(x1 - x0, y1 - y0, 1e-3) * 1.1;
  return (
    <svg
      aria-hidden="true"
      viewBox={`${(x0 + x1 - size) / 2} ${(y0 + y1 - size) / 2} ${size} ${size}`}
      className="size-6 shrink-0 rounded bg-bench"
    >
      {/* y is up in an outline's own mm. */}
      <g transform={`matrix(1 0 0 -1 0 ${y0 + y1})`}>
        <path
          d={path}
          className={hole ? "fill-none stroke-ink" : "fill-ink"}
          strokeDasharray={hole ? "3 2" : undefined}
          vectorEffect="non-scaling-stroke"
        />
      </g>
    </svg>
  );
}
