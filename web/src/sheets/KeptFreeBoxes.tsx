// Boxes of a sheet that are kept free: drawn by dragging on it, moved, sized and taken away.

import type { KeyboardEvent } from "react";
import { type Laid, setKeptFree } from "../document/laying";
import { type Point, round } from "../document/place";
import type { KeptFree } from "../document/types";
import { length } from "../document/units";
import { edit, useUnit } from "../state/timeline";
import { arrow, type Pointing, useDrag, wayOf } from "../ui/drag";
import { isPicked, type Pick, type Picked, STEP } from "./picked";

type Props = {
  of: Laid;
  material: string;
  sheet: { width: number; height: number };
  kept: KeptFree[];
  picked: Picked | null;
  pick: Pick;
  /** Pixels to a mm of the picture. */
  scale: () => number;
};

/** Where a box may lie: on its sheet. */
const within = (value: number, most: number) => round(Math.min(Math.max(value, 0), Math.max(most, 0)), 1);

/** Handlers for the sheet itself: a drag on it draws a box. */
export function useDrawing({ of, material, sheet, kept, pick, scale }: Props) {
  return useDrag<{ at: Point; per: number; index: number }>({
    begin: (event) => {
      const box = (event.currentTarget as SVGGraphicsElement).getBoundingClientRect();
      const per = scale();
      const at = { x: (event.clientX - box.left) / per, y: (box.bottom - event.clientY) / per };
      return { at, per, index: kept.length };
    },
    move: ({ at, per, index }, event: Pointing, from) => {
      const by = wayOf(event, from, { scale: per });
      const [x, width] = span(at.x, at.x + by.x, sheet.width);
      const [y, height] = span(at.y, at.y + by.y, sheet.height);
      const box = { x, y, width, height };
      edit((design) => setKeptFree(design, of, material, index, box, sheet), `free.${material}.${index}`);
    },
    drop: ({ index }) => pick({ kind: "free", material, index }),
    click: () => pick(null),
  });
}

/** Where a box begins along one side, and how far it goes. */
function span(from: number, to: number, most: number): [number, number] {
  const [low, high] = [within(Math.min(from, to), most), within(Math.max(from, to), most)];
  return [low, Math.max(round(high - low, 1), 0.1)];
}

export function KeptFreeBoxes(props: Props) {
  return props.kept.map((box, index) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: boxes have no other name
    <Box key={index} {...props} box={box} index={index} />
  ));
}

function Box(props: Props & { box: KeptFree; index: number }) {
  const { of, material, sheet, box, index, picked, pick, scale } = props;
  const unit = useUnit();
  const own: Picked = { kind: "free", material, index };
  const set = (next: KeptFree | null, gesture: string) =>
    edit(
      (design) => setKeptFree(design, of, material, index, next, sheet),
      `free.${material}.${index}.${gesture}`,
    );
  const begin = () => {
    pick(own);
    return { box, per: scale() };
  };
  const moved = useDrag<ReturnType<typeof begin>>({
    begin,
    move: (start, event, from) => {
      const by = wayOf(event, from, { scale: start.per });
      const x = within(start.box.x + by.x, sheet.width - start.box.width);
      const y = within(start.box.y + by.y, sheet.height - start.box.height);
      set({ ...start.box, x, y }, "move");
    },
  });
  const sized = useDrag<ReturnType<typeof begin>>({
    begin,
    move: (start, event, from) => {
      const by = wayOf(event, from, { scale: start.per });
      const width = Math.max(within(start.box.width + by.x, sheet.width - start.box.x), 0.1);
      const height = Math.max(within(start.box.height + by.y, sheet.height - start.box.y), 0.1);
      set({ ...start.box, width, height }, "size");
    },
  });
  const keys = (event: KeyboardEvent) => {
    const by = arrow(event, STEP);
    if (by)
      set({ ...box, x: within(box.x + by.x, sheet.width), y: within(box.y + by.y, sheet.height) }, "keys");
    else if (event.key === "Delete" || event.key === "Backspace") {
      pick(null);
      set(null, "gone");
    } else return;
    event.preventDefault();
  };
  const chosen = isPicked(picked, own);
  return (
    <g transform={`translate(${box.x} ${sheet.height - box.y - box.height})`}>
      {/* biome-ignore lint/a11y/useSemanticElements: a part of a drawing */}
      <rect
        role="button"
        tabIndex={0}
        data-testid="kept-free"
        aria-label={`Kept free, ${length(box.width, unit, 0)} × ${length(box.height, unit, 0)}`}
        aria-pressed={chosen}
        width={box.width}
        height={box.height}
        className={`cursor-move fill-alarm/15 outline-none focus-visible:stroke-halo ${chosen ? "stroke-glow" : "stroke-alarm"}`}
        strokeWidth={chosen ? 3 : 1}
        strokeDasharray={chosen ? undefined : "4 3"}
        vectorEffect="non-scaling-stroke"
        onKeyDown={keys}
        onFocus={() => pick(own)}
        {...moved}
      />
      {chosen && (
        <circle
          data-testid="kept-free-corner"
          cx={box.width}
          r={5 / scale()}
          className="cursor-nesw-resize fill-sheet stroke-glow"
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
          {...sized}
        />
      )}
    </g>
  );
}
