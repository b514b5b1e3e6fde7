// The frame of the art that is picked: it is moved, turned and stretched by it, whatever kind of art it is.

import { type KeyboardEvent, type ReactNode, useEffect, useRef } from "react";
import type { ArtReply } from "../api/client";
import { isLettering, patchArt, placeTogether } from "../document/art";
import { artName } from "../document/names";
import { type Box, type Point, placed, snapped, stretched, turned } from "../document/place";
import type { Art, Place } from "../document/types";
import { select, useSelection } from "../state/selection";
import { edit } from "../state/timeline";
import { arrow, onDrawing, type Pointing, useDrag, wayOf } from "../ui/drag";
import { corners, handles, pair } from "./frame";
import type { View } from "./view";

const HANDLE = 5;
const TURN_ARM = 26;
const SNAP_PX = 6;

/** What the parts of picked art need of its frame. */
export type Framed = {
  view: View;
  /** The way of a pointer since it went down, in mm. */
  mm: (event: Pointing, from: Point) => Point;
  /** Move all of the art from where it stood. */
  moveArt: (start: Place, by: Point, free: boolean) => void;
  endMove: () => void;
};

type Lines = { x?: number; y?: number };

type Props = {
  art: Art;
  reply: ArtReply;
  box: Box;
  view: View;
  at: (point: Point) => Point;
  others: Box[];
  setLines: (lines: Lines) => void;
  /** What is picked inside it. */
  children?: (framed: Framed) => ReactNode;
};

export function ArtFrame({ art, reply, box, view, at, others, setLines, children }: Props) {
  const free = useSelection((state) => state.free);
  const frame = useRef<SVGGElement>(null);
  const also = useSelection((state) => state.also);
  const { place } = art;
  const [x0, y0, x1, y1] = box;
  const middle = { x: (x0 + x1) / 2, y: (y0 + y1) / 2 };
  const setPlace = (next: Place, gesture: string) =>
    edit((design) => patchArt(design, art.id, { place: next }), `${art.id}.${gesture}`);
  const move = (next: Place, gesture: string) =>
    edit((design) => placeTogether(design, art.id, next, also), `${art.id}.${gesture}`);
  const mm = (event: Pointing, from: Point) => wayOf(event, from, view);

  useEffect(() => {
    // Picked on the stage: the arrow keys go to it from here on.
    frame.current?.focus({ preventScroll: true });
  }, []);

  const moveFrom = (start: Place, by: Point, free: boolean) => {
    const bounds = reply.bounds_mm as Box;
    const off = { x: start.x + by.x - place.x, y: start.y + by.y - place.y };
    const there: Box = [bounds[0] + off.x, bounds[1] + off.y, bounds[2] + off.x, bounds[3] + off.y];
    // Along a direction in which the hand goes nowhere nothing moves by itself.
    const reach = SNAP_PX / view.scale;
    const along = { x: Math.abs(by.x) >= reach, y: Math.abs(by.y) >= reach };
    const snap = free ? { by: { x: 0, y: 0 }, lines: {} } : snapped(there, others, reach, along);
    setLines(snap.lines);
    const x = Number((start.x + by.x + snap.by.x).toFixed(3));
    const y = Number((start.y + by.y + snap.by.y).toFixed(3));
    move({ ...start, x, y }, "move");
  };
  const dragArt = useDrag<Place>({
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
    if (by) move({ ...place, x: trim(place.x + by.x), y: trim(place.y + by.y) }, "keys");
    else if (event.key === "Enter" && event.target === frame.current && isLettering(art))
      select({ typing: art.id });
    else if (event.key === "[" || event.key === "]")
      setPlace(turned(place, box, place.rotate + (event.key === "[" ? 1 : -1)), "turn");
    else if (event.key === "Escape") select({ picked: null });
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
      aria-label={`“${artName(art)}”, picked: arrow keys move it, [ and ] turn it${children ? ", Enter types into it, Tab goes to its letters" : ""}`}
      className="outline-none"
      onKeyDown={keys}
    >
      <polygon
        points={ends.map(pair).join(" ")}
        data-art={art.id}
        className="pointer-events-auto cursor-move fill-transparent stroke-halo"
        strokeDasharray="5 3"
        {...dragArt}
      />
      {children?.({ view, mm, moveArt: moveFrom, endMove: () => setLines({}) })}
      <path d={`M${pair(top)}L${pair(knob)}`} className="pointer-events-none stroke-halo" />
      <circle
        cx={knob.x}
        cy={knob.y}
        r={HANDLE + 1}
        role="button"
        aria-label="Turn"
        className="pointer-events-auto cursor-grab fill-sheet stroke-halo"
        strokeWidth={1.5}
        {...dragTurn}
      >
        <title>Turn; Alt turns finely</title>
      </circle>
      {handles(box, free).map(({ name, handle, opposite }) => (
        <Handle
          // Its place changes while it is dragged, and it has to stay the same element.
          key={name}
          name={name}
          centre={at(placed(place, handle))}
          begin={() => ({ place, handle, opposite })}
          stretch={({ place, handle, opposite }, event, from) => {
            const origin = placed(place, handle);
            const by = mm(event, from);
            setPlace(
              stretched(place, handle, opposite, { x: origin.x + by.x, y: origin.y + by.y }, free),
              "stretch",
            );
          }}
        />
      ))}
    </g>
  );
}

/** The art's place when a handle was grabbed, and the handle and what stays where it is, in the art's coordinates. */
type Grabbed = { place: Place; handle: Point; opposite: Point };

type HandleProps = {
  name: string;
  centre: Point;
  begin: () => Grabbed;
  stretch: (start: Grabbed, event: Pointing, from: Point) => void;
};

function Handle({ name, centre, begin, stretch }: HandleProps) {
  const drag = useDrag<Grabbed>({ begin, move: stretch });
  return (
    <rect
      x={centre.x - HANDLE}
      y={centre.y - HANDLE}
      width={2 * HANDLE}
      height={2 * HANDLE}
      rx={2}
      role="button"
      aria-label={`Resize from the ${name}`}
      className="pointer-events-auto cursor-nwse-resize fill-sheet stroke-halo"
      strokeWidth={1.5}
      {...drag}
    >
      <title>Resize</title>
    </rect>
  );
}

function angleOf(event: Pointing, frame: SVGGElement | null, centre: Point): number {
  const at = onDrawing(event, frame);
  return (Math.atan2(centre.y - at.y, at.x - centre.x) * 180) / Math.PI;
}

function trim(value: number): number {
  return Number(value.toFixed(4));
}
