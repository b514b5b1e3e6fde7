// Words on the stage: blocks are picked, moved, turned and stretched; a picked block's letters are picked and moved.

import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import type { ArtReply, LetterReply } from "../api/client";
import { changeArt, patchArt } from "../document/edit";
import {
  type Box,
  isMoved,
  moveLetter,
  type Point,
  placed,
  snapped,
  stretched,
  turned,
  unplaced,
} from "../document/place";
import type { Lettering, Place } from "../document/types";
import { current, edit, useBench, usePart } from "./history";
import type { View } from "./view";

const HANDLE = 5;
const TURN_ARM = 26;
const SNAP_PX = 6;
const SLACK_PX = 4;
const STEP = 0.1;

type Props = { art: ArtReply[]; view: View };

export function StageWords({ art, view }: Props) {
  const blocks = usePart((design) => design.art);
  const picked = useBench((bench) => bench.picked);
  const [lines, setLines] = useState<{ x?: number; y?: number }>({});
  const at = (point: Point) => ({ x: view.x + point.x * view.scale, y: view.y - point.y * view.scale });
  return (
    <g>
      {art.map((reply) => {
        const block = blocks.find((one) => one.id === reply.id);
        if (!block || !reply.box_mm) return null;
        const props = { block, reply, box: reply.box_mm as Box, view, at };
        return block.id === picked ? (
          <Picked key={block.id} {...props} others={boxes(art, block.id)} setLines={setLines} />
        ) : (
          <polygon
            key={block.id}
            points={corners(props.box)
              .map((corner) => pair(at(placed(block.place, corner))))
              .join(" ")}
            data-words={block.id}
            role="button"
            tabIndex={0}
            aria-label={`Pick “${block.text}”`}
            className="pointer-events-auto fill-transparent hover:stroke-halo/60 focus-visible:stroke-halo"
            onKeyDown={(event) => {
              if (event.key !== "Enter" && event.key !== " ") return;
              event.preventDefault();
              event.stopPropagation();
              useBench.setState({ picked: block.id, letter: null });
            }}
          />
        );
      })}
      <g className="pointer-events-none stroke-glow" strokeDasharray="3 3">
        {lines.x !== undefined && <path d={`M${at({ x: lines.x, y: 0 }).x},-9999V9999`} />}
        {lines.y !== undefined && <path d={`M-9999,${at({ x: 0, y: lines.y }).y}H9999`} />}
      </g>
    </g>
  );
}

type PickedProps = {
  block: Lettering;
  reply: ArtReply;
  box: Box;
  view: View;
  at: (point: Point) => Point;
  others: Box[];
  setLines: (lines: { x?: number; y?: number }) => void;
};

function Picked({ block, reply, box, view, at, others, setLines }: PickedProps) {
  const free = useBench((bench) => bench.free);
  const frame = useRef<SVGGElement>(null);
  const { place } = block;
  const [x0, y0, x1, y1] = box;
  const middle = { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
  const setPlace = (next: Place, gesture: string) =>
    edit((design) => patchArt(design, block.id, { place: next }), `${block.id}.${gesture}`);
  const mm = (event: PointerEvent, from: Point): Point => ({
    x: (event.clientX - from.x) / view.scale,
    y: (from.y - event.clientY) / view.scale,
  });

  useEffect(() => {
    // Picked on the stage: the arrow keys go to the block from here on.
    frame.current?.focus({ preventScroll: true });
  }, []);

  const moveFrom = (start: Place, by: Point, free: boolean) => {
    const bounds = reply.bounds_mm as Box;
    const off = { x: start.x + by.x - place.x, y: start.y + by.y - place.y };
    const there: Box = [bounds[0] + off.x, bounds[1] + off.y, bounds[2] + off.x, bounds[3] + off.y];
    const snap = free ? { by: { x: 0, y: 0 }, lines: {} } : snapped(there, others, SNAP_PX / view.scale);
    setLines(snap.lines);
    const x = Number((start.x + by.x + snap.by.x).toFixed(3));
    const y = Number((start.y + by.y + snap.by.y).toFixed(3));
    setPlace({ ...start, x, y }, "move");
  };
  const dragBlock = useDrag<Place>({
    begin: () => place,
    move: (start, event, from) => moveFrom(start, mm(event, from), event.altKey),
    end: () => setLines({}),
  });
  const dragTurn = useDrag<{ place: Place; angle: number }>({
    begin: (event) => ({ place, angle: angleOf(event, frame.current, at(placed(place, middle))) }),
    move: (start, event) => {
      const now = angleOf(event, frame.current, at(placed(start.place, middle)));
      const wanted = start.place.rotate + now - start.angle;
      const step = event.altKey ? 0.1 : 1;
      const whole = Math.round(wanted / step) * step;
      const upright = Math.round(wanted / 45) * 45;
      setPlace(
        turned(start.place, box, !event.altKey && Math.abs(wanted - upright) < 3 ? upright : whole),
        "turn",
      );
    },
  });

  const keys = (event: KeyboardEvent) => {
    const by = arrow(event);
    if (by) setPlace({ ...place, x: trim(place.x + by.x), y: trim(place.y + by.y) }, "keys");
    else if (event.key === "[" || event.key === "]")
      setPlace(turned(place, box, place.rotate + (event.key === "[" ? 1 : -1)), "turn");
    else if (event.key === "Escape") useBench.setState({ picked: null, letter: null });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const ends = corners(box).map((corner) => at(placed(place, corner)));
  const top = at(placed(place, { x: middle.x, y: y1 }));
  const up = at(placed(place, { x: middle.x, y: y1 + 1 }));
  const size = Math.hypot(up.x - top.x, up.y - top.y) || 1;
  const knob = {
    x: top.x + ((up.x - top.x) / size) * TURN_ARM,
    y: top.y + ((up.y - top.y) / size) * TURN_ARM,
  };

  return (
    <g
      ref={frame}
      role="group"
      tabIndex={0}
      data-testid="frame"
      aria-label={`“${block.text}”, picked: arrow keys move it, [ and ] turn it, Tab goes to its letters`}
      className="outline-none"
      onKeyDown={keys}
    >
      <polygon
        points={ends.map(pair).join(" ")}
        data-words={block.id}
        className="pointer-events-auto cursor-move fill-transparent stroke-halo"
        strokeDasharray="5 3"
        {...dragBlock}
      />
      {reply.letters?.map((letter) => (
        <Letter
          key={letter.index}
          letter={letter}
          block={block}
          view={view}
          mm={mm}
          moveBlock={moveFrom}
          endMove={() => setLines({})}
        />
      ))}
      <path d={`M${pair(top)}L${pair(knob)}`} className="pointer-events-none stroke-halo" />
      <circle
        cx={knob.x}
        cy={knob.y}
        r={HANDLE + 1}
        data-testid="turn"
        className="pointer-events-auto cursor-grab fill-sheet stroke-halo"
        strokeWidth={1.5}
        {...dragTurn}
      >
        <title>Turn; Alt turns finely</title>
      </circle>
      {handles(box, free).map(({ handle, opposite }) => (
        <Handle
          key={`${handle.x},${handle.y}`}
          centre={at(placed(place, handle))}
          stretch={(start: Place, event, from) => {
            const origin = placed(start, handle);
            const by = mm(event, from);
            setPlace(
              stretched(start, handle, opposite, { x: origin.x + by.x, y: origin.y + by.y }, free),
              "stretch",
            );
          }}
          begin={() => place}
        />
      ))}
    </g>
  );
}

type HandleProps = {
  centre: Point;
  begin: () => Place;
  stretch: (start: Place, event: PointerEvent, from: Point) => void;
};

function Handle({ centre, begin, stretch }: HandleProps) {
  const drag = useDrag<Place>({ begin, move: stretch });
  return (
    <rect
      x={centre.x - HANDLE}
      y={centre.y - HANDLE}
      width={2 * HANDLE}
      height={2 * HANDLE}
      rx={2}
      data-testid="stretch"
      className="pointer-events-auto cursor-nwse-resize fill-sheet stroke-halo"
      strokeWidth={1.5}
      {...drag}
    >
      <title>Stretch</title>
    </rect>
  );
}

type LetterProps = {
  letter: LetterReply;
  block: Lettering;
  view: View;
  mm: (event: PointerEvent, from: Point) => Point;
  moveBlock: (start: Place, by: Point, free: boolean) => void;
  endMove: () => void;
};

function Letter({ letter, block, view, mm, moveBlock, endMove }: LetterProps) {
  const picked = useBench((bench) => bench.letter === letter.index);
  const following = useBench((bench) => bench.following);
  const moved = isMoved(block, letter.index);
  const set = (start: Lettering, by: Point, gesture: string) => {
    const own = unplaced(start.place, by);
    edit(
      (design) => changeArt(design, block.id, () => moveLetter(start, letter.index, own, following)),
      `${block.id}.letter.${letter.index}.${gesture}`,
    );
  };
  const drag = useDrag<{ block: Lettering; own: boolean }>({
    begin: () => ({ block, own: picked }),
    move: (start, event, from) => {
      if (start.own) set(start.block, mm(event, from), "drag");
      else moveBlock(start.block.place, mm(event, from), event.altKey);
    },
    end: endMove,
    click: () => useBench.setState({ letter: picked ? null : letter.index }),
  });
  const keys = (event: KeyboardEvent) => {
    const by = arrow(event);
    const now = current(useBench.getState()).art.find((one) => one.id === block.id) ?? block;
    if (by) {
      useBench.setState({ letter: letter.index });
      set(now, by, "keys");
    } else if (event.key === "Enter" || event.key === " ")
      useBench.setState({ letter: picked ? null : letter.index });
    else if (event.key === "Escape" && picked) useBench.setState({ letter: null });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [x0, , x1] = letter.bounds_mm;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Letter ${letter.text}${moved ? ", moved" : ""}: arrow keys move it`}
      aria-pressed={picked}
      data-letter={letter.index}
      className="group/letter outline-none"
      onKeyDown={keys}
    >
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        <path
          d={letter.path}
          fillRule="evenodd"
          vectorEffect="non-scaling-stroke"
          strokeWidth={picked ? 2.5 : 1.5}
          className={`pointer-events-auto cursor-pointer group-focus-visible/letter:stroke-halo ${picked ? "fill-glow/40 stroke-halo" : "fill-transparent hover:stroke-halo/70"}`}
          {...drag}
        />
      </g>
      {moved && (
        <circle
          cx={view.x + ((x0 + x1) / 2) * view.scale}
          cy={view.y - letter.bounds_mm[1] * view.scale + 9}
          r={3}
          className="pointer-events-none fill-halo"
        />
      )}
    </g>
  );
}

type DragOptions<Start> = {
  begin: (event: PointerEvent) => Start;
  move: (start: Start, event: PointerEvent, from: Point) => void;
  end?: () => void;
  click?: () => void;
};

/** Pointer handlers of something dragged: the whole drag is one undo, and a press without a drag is a click. */
function useDrag<Start>({ begin, move, end, click }: DragOptions<Start>) {
  const held = useRef<{ start: Start; from: Point; moved: boolean } | null>(null);
  return {
    onPointerDown: (event: PointerEvent) => {
      if (event.button !== 0) return;
      event.stopPropagation();
      (event.currentTarget as Element).setPointerCapture(event.pointerId);
      held.current = { start: begin(event), from: { x: event.clientX, y: event.clientY }, moved: false };
    },
    onPointerMove: (event: PointerEvent) => {
      const drag = held.current;
      if (!drag) return;
      event.stopPropagation();
      const way = Math.hypot(event.clientX - drag.from.x, event.clientY - drag.from.y);
      if (!drag.moved && way < SLACK_PX) return;
      if (!drag.moved) useBench.getState().endGesture();
      drag.moved = true;
      move(drag.start, event, drag.from);
    },
    onPointerUp: (event: PointerEvent) => {
      const drag = held.current;
      held.current = null;
      if (!drag) return;
      event.stopPropagation();
      if (drag.moved) useBench.getState().endGesture();
      else click?.();
      end?.();
    },
  };
}

function arrow(event: KeyboardEvent): Point | null {
  const step = event.shiftKey ? 1 : STEP;
  const ways: Record<string, Point> = {
    ArrowLeft: { x: -step, y: 0 },
    ArrowRight: { x: step, y: 0 },
    ArrowUp: { x: 0, y: step },
    ArrowDown: { x: 0, y: -step },
  };
  return ways[event.key] ?? null;
}

function angleOf(event: PointerEvent, frame: SVGGElement | null, centre: Point): number {
  const box = frame?.ownerSVGElement?.getBoundingClientRect();
  const x = event.clientX - (box?.left ?? 0) - centre.x;
  const y = event.clientY - (box?.top ?? 0) - centre.y;
  return (Math.atan2(-y, x) * 180) / Math.PI;
}

function boxes(art: ArtReply[], except: string): Box[] {
  return art.flatMap((one) => (one.id !== except && one.bounds_mm ? [one.bounds_mm as Box] : []));
}

function corners([x0, y0, x1, y1]: Box): Point[] {
  return [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
}

/** Corners always; the sides too where proportions are free. */
function handles(box: Box, free: boolean) {
  const [a, b, c, d] = corners(box) as [Point, Point, Point, Point];
  const half = (p: Point, q: Point) => ({ x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 });
  const pairs: [Point, Point][] = [
    [a, c],
    [b, d],
    [c, a],
    [d, b],
  ];
  if (free) {
    const sides: [Point, Point][] = [
      [half(a, b), half(c, d)],
      [half(b, c), half(d, a)],
    ];
    for (const [p, q] of sides) pairs.push([p, q], [q, p]);
  }
  return pairs.map(([handle, opposite]) => ({ handle, opposite }));
}

function pair({ x, y }: Point): string {
  return `${x.toFixed(2)},${y.toFixed(2)}`;
}

function trim(value: number): number {
  return Number(value.toFixed(4));
}
