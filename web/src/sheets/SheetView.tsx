// One sheet with what lies on it: pieces are dragged, turned, and taken to other sheets.

import { type KeyboardEvent, useRef } from "react";
import type { Sheets } from "../api/answers";
import { type Laid, movePlaced } from "../document/handOver";
import { round } from "../document/place";
import type { Placed } from "../document/types";
import { length } from "../document/units";
import { looksLike, useMaterials } from "../layers/catalogue";
import { edit, useUnit } from "../state/timeline";
import { type Pointing, useDrag } from "../ui/drag";
import type { SheetOf } from "./Sheets";

type Props = {
  of: Laid;
  sheet: SheetOf;
  sheets: Sheets;
  placed: Placed[];
  picked: number | null;
  pick: (index: number) => void;
};

export function SheetView({ of, sheet, sheets, placed, picked, pick }: Props) {
  const unit = useUnit();
  const materials = useMaterials();
  const surface = useRef<SVGSVGElement>(null);
  const board = sheets.boards[sheet.board] as Sheets["boards"][number];
  const { width_mm: width, height_mm: height } = board;
  const told = sheets.sheets.find((one) => one.board === sheet.board && one.number === sheet.number);
  const { colour } = looksLike(materials, { material: board.material, colour: board.colour });
  /** A way on the screen in mm. */
  const way = (event: Pointing, from: { x: number; y: number }) => {
    const per = surface.current?.getScreenCTM()?.a || 1;
    return { x: (event.clientX - from.x) / per, y: (from.y - event.clientY) / per };
  };
  const drag = useDrag<{ index: number; from: Placed } | null>({
    begin: (event) => {
      const index = Number(event.currentTarget.getAttribute("data-placed"));
      const from = placed[index];
      pick(index);
      return from ? { index, from } : null;
    },
    move: (start, event, from) => {
      if (!start) return;
      const by = way(event, from);
      const there = { x: round(start.from.x + by.x, 2), y: round(start.from.y + by.y, 2) };
      edit((design) => movePlaced(design, of, start.index, there), `placed.${start.index}`);
    },
  });
  const keys = (event: KeyboardEvent, index: number, one: Placed) => {
    const step = event.shiftKey ? 10 : 1;
    const ways: Record<string, Partial<Placed>> = {
      ArrowLeft: { x: one.x - step },
      ArrowRight: { x: one.x + step },
      ArrowUp: { y: one.y + step },
      ArrowDown: { y: one.y - step },
      "[": { turn: (one.turn + 15) % 360 },
      "]": { turn: (one.turn + 345) % 360 },
      PageDown: { sheet: one.sheet + 1 },
      PageUp: { sheet: Math.max(0, one.sheet - 1) },
    };
    const change = ways[event.key];
    if (!change) return;
    event.preventDefault();
    edit((design) => movePlaced(design, of, index, change), `placed.${index}.keys`);
  };
  return (
    <figure className="mb-5">
      <figcaption className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">
          {board.title}, sheet {sheet.number + 1}
        </span>
        <span className="text-soft text-xs" data-testid="sheet-facts">
          {length(width, unit, 0)} × {length(height, unit, 0)}, {sheet.placed.length}{" "}
          {sheet.placed.length === 1 ? "piece" : "pieces"}
          {told && `, ${Math.round((1 - told.used) * 100)} % waste up to the last one`}
        </span>
        {told?.wrong.map((sentence) => (
          <span key={sentence} role="alert" className="text-alarm">
            {sentence}
          </span>
        ))}
      </figcaption>
      <svg
        ref={surface}
        role="group"
        aria-label={`Sheet ${sheet.number + 1} of ${board.title}`}
        viewBox={`-2 -2 ${width + 4} ${height + 4}`}
        className="mt-1 max-h-[64vh] w-full touch-none rounded-lg bg-bench"
      >
        <rect
          width={width}
          height={height}
          className="fill-sheet stroke-soft"
          vectorEffect="non-scaling-stroke"
        />
        <path
          d={board.marks}
          data-testid="sheet-marks"
          transform={`translate(0 ${height})`}
          className="fill-none stroke-ink"
          vectorEffect="non-scaling-stroke"
        />
        {sheet.placed.map((index) => {
          const one = placed[index] as Placed;
          const item = board.items[one.item] as (typeof board.items)[number];
          return (
            <g
              key={index}
              role="button"
              tabIndex={0}
              data-placed={index}
              data-testid="placed"
              aria-label={`Piece ${index + 1}${item.name && `, ${item.name}`}, ${length(item.width_mm, unit, 0)} × ${length(item.height_mm, unit, 0)}`}
              aria-pressed={picked === index}
              transform={`translate(${one.x} ${height - one.y}) rotate(${-one.turn})`}
              className="cursor-move outline-none focus-visible:stroke-halo"
              onKeyDown={(event) => keys(event, index, one)}
              onFocus={() => pick(index)}
              {...drag}
            >
              <path d={item.hull} className="fill-transparent" />
              {Object.entries(item.paths).map(([layer, path], number) => (
                <path
                  key={layer}
                  d={path}
                  fillRule="evenodd"
                  fill={number === Object.keys(item.paths).length - 1 ? colour : "none"}
                  className={picked === index ? "stroke-glow" : "stroke-ink/60"}
                  strokeWidth={picked === index ? 3 : 1}
                  vectorEffect="non-scaling-stroke"
                />
              ))}
              {item.row > 0 && (
                <text
                  transform={`rotate(${one.turn})`}
                  textAnchor="middle"
                  dominantBaseline="central"
                  fontSize={Math.min(9, item.width_mm / 3, item.height_mm / 2)}
                  className="pointer-events-none fill-ink stroke-sheet font-semibold [paint-order:stroke]"
                  strokeWidth={0.8}
                >
                  {item.row}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
