// The outline of an offcut: its corners are dragged, and new ones are pulled out of its edges.

import type { KeyboardEvent } from "react";
import { type Laid, setOffcut } from "../document/laying";
import { type Point, round } from "../document/place";
import { edit } from "../state/timeline";
import { arrow, useDrag, wayOf } from "../ui/drag";
import { isPicked, type Pick, type Picked, STEP } from "./picked";

type Props = {
  of: Laid;
  index: number;
  /** Its corners as the document has them, and how they lie in the picture. */
  outline: Point[];
  drawn: (at: Point) => Point;
  picked: Picked | null;
  pick: Pick;
  /** The picture holds still while a corner is dragged. */
  hold: (held: boolean) => void;
  /** Pixels to a mm of the picture. */
  scale: () => number;
};

const LEAST_CORNERS = 3;

export function OffcutOutline(props: Props) {
  const { of, index, outline, drawn, picked, pick, scale, hold } = props;
  const radius = 5 / scale();
  const put = (corners: Point[], gesture: string) =>
    edit(
      (design) =>
        setOffcut(
          design,
          of,
          index,
          corners.map(({ x, y }) => [round(x, 2), round(y, 2)]),
        ),
      `offcut.${index}.${gesture}`,
    );
  const drag = useDrag<{ corners: Point[]; at: number; per: number }>({
    begin: (event) => {
      const [at, isNew] = [
        Number(event.currentTarget.getAttribute("data-corner")),
        event.currentTarget.hasAttribute("data-new"),
      ];
      const corners = isNew ? outline.toSpliced(at, 0, middle(outline, at)) : outline;
      hold(true);
      return { corners, at, per: scale() };
    },
    move: ({ corners, at, per }, event, from) => {
      const by = wayOf(event, from, { scale: per });
      const before = corners[at] as Point;
      put(corners.with(at, { x: before.x + by.x, y: before.y + by.y }), `corner.${at}`);
    },
    drop: ({ at }) => pick({ kind: "corner", offcut: index, index: at }),
    click: ({ at }) => pick({ kind: "corner", offcut: index, index: at }),
    end: () => hold(false),
  });
  const keys = (event: KeyboardEvent, at: number) => {
    const by = arrow(event, STEP);
    const before = outline[at] as Point;
    if (by) put(outline.with(at, { x: before.x + by.x, y: before.y + by.y }), `keys.${at}`);
    else if ((event.key === "Delete" || event.key === "Backspace") && outline.length > LEAST_CORNERS) {
      pick(null);
      put(outline.toSpliced(at, 1), "fewer");
    } else return;
    event.preventDefault();
  };
  return outline.map((corner, at) => {
    const own: Picked = { kind: "corner", offcut: index, index: at };
    const [there, between] = [drawn(corner), drawn(middle(outline, at))];
    const chosen = isPicked(picked, own);
    return (
      // biome-ignore lint/suspicious/noArrayIndexKey: corners have no other name
      <g key={at}>
        <circle
          data-corner={at}
          data-new=""
          data-testid="offcut-edge"
          cx={between.x}
          cy={between.y}
          r={radius * 0.7}
          className="cursor-crosshair fill-bench stroke-soft"
          vectorEffect="non-scaling-stroke"
          {...drag}
        />
        {/* biome-ignore lint/a11y/useSemanticElements: a part of a drawing */}
        <circle
          role="button"
          tabIndex={0}
          data-corner={at}
          data-testid="offcut-corner"
          aria-label={`Corner ${at + 1} of the offcut`}
          aria-pressed={chosen}
          cx={there.x}
          cy={there.y}
          r={radius}
          className={`cursor-move outline-none focus-visible:stroke-halo ${chosen ? "fill-glow stroke-glow" : "fill-sheet stroke-ink"}`}
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
          onKeyDown={(event) => keys(event, at)}
          onFocus={() => pick(own)}
          {...drag}
        />
      </g>
    );
  });
}

/** Between a corner and the one before it. */
function middle(corners: Point[], at: number): Point {
  const [a, b] = [corners.at(at - 1) as Point, corners[at] ?? (corners[0] as Point)];
  return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
}
