// One sheet with what lies on it: pieces are dragged, turned, and taken to other sheets.

import { type KeyboardEvent, useRef, useState } from "react";
import type { Sheets } from "../api/answers";
import {
  blankOf,
  type Frame,
  keptFreeOf,
  type Laid,
  movePlaced,
  setOffcut,
  sizeOf,
} from "../document/laying";
import { type Point, round } from "../document/place";
import type { Laying, Placed } from "../document/types";
import { length } from "../document/units";
import { looksLike, useMaterials } from "../layers/catalogue";
import { edit, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { arrow, useDrag, wayOf } from "../ui/drag";
import { KeptFreeBoxes, useDrawing } from "./KeptFreeBoxes";
import { OffcutOutline } from "./OffcutOutline";
import { isPicked, type Pick, type Picked, STEP } from "./picked";
import type { SheetOf } from "./Sheets";

type Props = {
  of: Laid;
  laying: Laying;
  sheet: SheetOf;
  sheets: Sheets;
  picked: Picked | null;
  pick: Pick;
};

export function SheetView({ of, laying, sheet, sheets, picked, pick }: Props) {
  const unit = useUnit();
  const materials = useMaterials();
  const surface = useRef<SVGSVGElement>(null);
  const scale = () => surface.current?.getScreenCTM()?.a || 1;
  const { placed } = laying;
  const board = sheets.boards[sheet.board] as Sheets["boards"][number];
  const { material } = board;
  const whole = sizeOf(laying, board);
  const blank = blankOf(laying, material, sheet.number, whole);
  const { offcut } = blank;
  // What the picture shows: it holds still while a corner is dragged.
  const [held, setHeld] = useState<Frame | null>(null);
  const frame = held ?? blank;
  const { width, height } = frame;
  // Handles on its edges are seen whole.
  const edge = 0.012 * Math.max(width, height);
  const told = sheets.sheets.find((one) => one.board === sheet.board && one.number === sheet.number);
  const { colour } = looksLike(materials, { material, colour: board.colour });
  const kept = offcut !== null ? [] : keptFreeOf(laying, material);
  const free = { of, material, sheet: whole, kept, picked, pick, scale };
  const drawing = useDrawing(free);
  const drawn = ({ x, y }: Point) => ({ x: x - frame.left, y: height - (y - frame.low) });
  const outline = offcut !== null ? (laying.offcuts[offcut]?.outline ?? []).map(([x, y]) => ({ x, y })) : [];
  const drag = useDrag<{ index: number; from: Placed; per: number } | null>({
    begin: (event) => {
      const index = Number(event.currentTarget.getAttribute("data-placed"));
      const from = placed[index];
      pick({ kind: "piece", index });
      return from ? { index, from, per: scale() } : null;
    },
    move: (start, event, from) => {
      if (!start) return;
      const by = wayOf(event, from, { scale: start.per });
      const there = { x: round(start.from.x + by.x, 2), y: round(start.from.y + by.y, 2) };
      edit((design) => movePlaced(design, of, start.index, there), `placed.${start.index}`);
    },
  });
  const keys = (event: KeyboardEvent, index: number, one: Placed) => {
    const by = arrow(event, STEP);
    const ways: Record<string, Partial<Placed>> = {
      "[": { turn: (one.turn + 15) % 360 },
      "]": { turn: (one.turn + 345) % 360 },
      PageDown: { sheet: one.sheet + 1 },
      PageUp: { sheet: Math.max(0, one.sheet - 1) },
    };
    const change = by ? { x: one.x + by.x, y: one.y + by.y } : ways[event.key];
    if (!change) return;
    event.preventDefault();
    edit((design) => movePlaced(design, of, index, change), `placed.${index}.keys`);
  };
  return (
    <figure className="mb-5">
      <figcaption className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">
          {board.title}, {blank.title}
        </span>
        <span className="text-soft text-xs" data-testid="sheet-facts">
          {length(blank.width, unit, 0)} × {length(blank.height, unit, 0)}, {sheet.placed.length}{" "}
          {sheet.placed.length === 1 ? "piece" : "pieces"}
          {told &&
            sheet.placed.length > 0 &&
            `, ${Math.round((1 - told.used) * 100)} % waste up to the last one`}
        </span>
        {told?.wrong.map((sentence) => (
          <span key={sentence} role="alert" className="text-alarm">
            {sentence}
          </span>
        ))}
        {offcut !== null && (
          <Button
            look="quiet"
            className="px-2 py-0.5"
            onClick={() => {
              pick(null);
              edit((design) => setOffcut(design, of, offcut, null));
            }}
          >
            Remove offcut
          </Button>
        )}
      </figcaption>
      <svg
        ref={surface}
        role="group"
        aria-label={`${board.title}, ${blank.title}`}
        viewBox={`${-edge} ${-edge} ${width + 2 * edge} ${height + 2 * edge}`}
        className="mt-1 max-h-[64vh] w-full touch-none select-none rounded-lg bg-bench"
      >
        {offcut === null ? (
          <rect
            data-testid="blank"
            width={width}
            height={height}
            className="cursor-crosshair fill-sheet stroke-soft"
            vectorEffect="non-scaling-stroke"
            {...drawing}
          />
        ) : (
          <polygon
            data-testid="blank"
            points={outline
              .map(drawn)
              .map(({ x, y }) => `${x},${y}`)
              .join(" ")}
            className="fill-sheet stroke-soft"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {offcut === null && (
          <path
            d={board.marks}
            data-testid="sheet-marks"
            transform={`translate(0 ${height})`}
            className="pointer-events-none fill-none stroke-ink"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {offcut === null && <KeptFreeBoxes {...free} />}
        {sheet.placed.map((index) => {
          const one = placed[index] as Placed;
          const item = board.items[one.item] as (typeof board.items)[number];
          const chosen = isPicked(picked, { kind: "piece", index });
          const at = drawn({ x: blank.left + one.x, y: blank.low + one.y });
          return (
            <g
              key={index}
              role="button"
              tabIndex={0}
              data-placed={index}
              data-testid="placed"
              aria-label={`Piece ${index + 1}${item.name && `, ${item.name}`}, ${length(item.width_mm, unit, 0)} × ${length(item.height_mm, unit, 0)}`}
              aria-pressed={chosen}
              transform={`translate(${at.x} ${at.y}) rotate(${-one.turn})`}
              className="cursor-move outline-none focus-visible:stroke-halo"
              onKeyDown={(event) => keys(event, index, one)}
              onFocus={() => pick({ kind: "piece", index })}
              {...drag}
            >
              <path d={item.hull} className="fill-transparent" />
              {Object.entries(item.paths).map(([layer, path], number) => (
                <path
                  key={layer}
                  d={path}
                  fillRule="evenodd"
                  fill={number === Object.keys(item.paths).length - 1 ? colour : "none"}
                  className={chosen ? "stroke-glow" : "stroke-ink/60"}
                  strokeWidth={chosen ? 3 : 1}
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
        {offcut !== null && (
          <OffcutOutline
            of={of}
            index={offcut}
            outline={outline}
            drawn={drawn}
            picked={picked}
            pick={pick}
            hold={(still) => setHeld(still ? blank : null)}
            scale={scale}
          />
        )}
      </svg>
    </figure>
  );
}
