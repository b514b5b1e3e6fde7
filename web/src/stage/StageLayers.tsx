// The layers as they are painted on the stage: in material colours, as cut lines, or pulled apart.

import { useState } from "react";
import { api } from "../api/client";
import { levelsDown } from "../document/carving";
import { isCut, isLine } from "../document/handOver";
import type { Layer, Unit } from "../document/types";
import { length } from "../document/units";
import { looksLike, useMaterials } from "../layers/catalogue";
import { useAsked } from "../state/asked";
import type { Building } from "../state/building";
import { useSelection } from "../state/selection";
import { useDesign, usePart } from "../state/timeline";
import { type Pointing, useDrag } from "../ui/drag";
import { LeavingLines } from "./LeavingLines";
import { StageHeat } from "./StageHeat";
import { type Paint, StagePaint } from "./StagePaint";
import type { Box } from "./view";

export type Look = "solid" | "lines" | "apart" | "widths" | "round";

/** Up to this many pixels a line is painted as one; a wider one is filled, which takes longer than all the rest of a
 * drawing together: it waits until nothing is dragged. */
const HAIRLINE = 1;

/** How the layers of the pulled-apart stack lie: seen from the front and above, each this far above the next. */
const TILT = 0.55;
const LEAN = -0.22;
const LIFT = 0.68;

/** The box (mm, y up) of a stack pulled apart; layers are laid down from the bottom one, which stays. */
export function apartBounds(bounds: Box | null, count: number): Box | null {
  if (!bounds) return null;
  const [x0, y0, x1, y1] = bounds;
  const height = (y1 - y0) * TILT;
  const aside = Math.abs(LEAN) * (y1 - y0);
  const top = y0 + height + Math.max(0, count - 1) * (y1 - y0) * LIFT;
  return [x0 - aside / 2, y0, x1 + aside / 2, top];
}

/** Where a layer lies in the pulled-apart stack: `above` of them lie under it. */
function apartTransform([x0, y0, x1, y1]: Box, above: number): string {
  const x = (x0 + x1) / 2;
  const y = -(y0 + y1) / 2;
  const up = above * (y1 - y0) * LIFT - ((y1 - y0) * (1 - TILT)) / 2;
  return `translate(${x} ${y - up}) matrix(1 0 ${LEAN} ${TILT} 0 0) translate(${-x} ${-y})`;
}

/** The left end of a layer's foot there. */
function apartFoot([x0, y0, , y1]: Box, above: number): { x: number; y: number } {
  return { x: x0 + (LEAN * (y1 - y0)) / 2, y: -y0 - above * (y1 - y0) * LIFT };
}

type Props = { building: Building; look: Look; scale: number; pick: (event: Pointing) => void };

export function StageLayers({ building, look, scale, pick }: Props) {
  const design = useDesign();
  const built = building.built;
  if (!built) return null;
  // Painted from the bottom of the stack up; guides are drawn over everything, but only outside "Cut lines".
  const shown = design.layers.filter(
    (layer) => !layer.hidden && (look !== "lines" || layer.process !== "guide"),
  );
  const paints = new Map(built.reply.layers.map((layer) => [layer.id, layer.paint]));
  const cutPaths = new Map(built.reply.layers.map((layer) => [layer.id, layer.cut_path]));
  const bounds = (built.reply.bounds_mm ?? [0, 0, 0, 0]) as Box;
  return (
    <g
      fillRule="evenodd"
      strokeLinejoin="round"
      data-exact={built.exact}
      data-current={built.document === design}
      data-checked={built.checked}
      data-build={built.count}
      data-testid="outlines"
    >
      {shown.toReversed().map((layer, above) => (
        <Pulled key={layer.id} {...{ layer, scale, pick }} always={look === "apart"}>
          {/* Faded, so that the widths drawn on top can be told from each other. */}
          <g
            transform={look === "apart" ? apartTransform(bounds, above) : undefined}
            opacity={look === "widths" ? 0.3 : undefined}
          >
            <Painted
              layer={layer}
              path={(look === "lines" && cutPaths.get(layer.id)) || (built.paths.get(layer.id) ?? "")}
              paint={paints.get(layer.id) ?? null}
              lines={look === "lines"}
              quick={!built.exact}
              scale={scale}
            />
          </g>
          {look === "apart" && (
            <text
              {...apartFoot(bounds, above)}
              dy="1.3em"
              className="fill-soft font-semibold"
              fontSize={13 / scale}
            >
              {layer.name.trim() || layer.id}
              <tspan dx="0.7em" className="font-normal">
                {height(
                  built.reply.stack?.levels.find((one) => one.layer === layer.id),
                  design.unit,
                )}
              </tspan>
            </text>
          )}
        </Pulled>
      ))}
      {look === "widths" && <StageHeat />}
      {look !== "apart" && look !== "widths" && <Halo building={building} shown={shown} />}
    </g>
  );
}

/** “from 3 to 6 mm”, over the table; what adds nothing to the stack is at one height. */
function height(level: { bottom_mm: number; top_mm: number } | undefined, unit: Unit): string {
  if (!level) return "";
  const { bottom_mm: bottom, top_mm: top } = level;
  return top > bottom ? `from ${length(bottom, unit)} to ${length(top, unit)}` : `at ${length(bottom, unit)}`;
}

type PulledProps = {
  layer: Layer;
  scale: number;
  always: boolean;
  pick: (event: Pointing) => void;
  children: React.ReactNode;
};

/** A layer that can be dragged aside, to see what lies under it; it springs back when it is let go. */
function Pulled(props: PulledProps) {
  const { layer, scale, always, pick, children } = props;
  const selected = useSelection((state) => state.layer === layer.id && state.picked === null);
  const [by, setBy] = useState({ x: 0, y: 0 });
  const drag = useDrag({
    begin: () => null,
    move: (_, event, from) => setBy({ x: event.clientX - from.x, y: event.clientY - from.y }),
    click: (_, event) => pick(event),
    end: () => setBy({ x: 0, y: 0 }),
  });
  const aside = by.x !== 0 || by.y !== 0;
  return (
    <g
      data-layer={layer.id}
      data-aside={aside || undefined}
      className={`cursor-pointer ${aside ? "" : "transition-transform duration-300 motion-reduce:transition-none"}`}
      style={{ transform: `translate(${by.x / scale}px, ${by.y / scale}px)` }}
      {...(always || selected ? drag : {})}
    >
      {children}
    </g>
  );
}

type PaintedProps = {
  layer: Layer;
  path: string;
  paint: Paint | null;
  lines: boolean;
  quick: boolean;
  scale: number;
};

function Painted({ layer, path, paint, lines, quick, scale }: PaintedProps) {
  const selected = useSelection((state) => state.layer === layer.id);
  const { colour, thickness } = looksLike(useMaterials(), layer);
  const { process } = layer;
  const down = usePart((design) => levelsDown(design, layer.id));
  if (lines) return <LeavingLines layer={layer} path={path} scale={scale} />;
  const filled = process !== "guide" && !isLine(layer);
  if (!filled)
    return (
      <g fill="none">
        {/* A line is hard to hit: this one is wide and unseen. */}
        <path d={path} pointerEvents="stroke" vectorEffect="non-scaling-stroke" strokeWidth={11} />
        <path
          d={path}
          vectorEffect="non-scaling-stroke"
          strokeWidth={1.2}
          strokeDasharray={process === "guide" ? "5 4" : undefined}
          className={process === "guide" ? "stroke-soft" : "stroke-ink"}
        />
      </g>
    );
  const drop = Math.min(2.2, 0.6 + thickness * 0.45) / scale;
  const sunk = process === "engrave" || (process === "carve" && down === null);
  // What is carved lower lies in the shade.
  const shaded = down ? `color-mix(in srgb, ${colour}, #2a1c12 ${14 * down}%)` : colour;
  const marks = !path.includes("Z") && path !== "";
  // Strokes take longest to paint: while something is dragged, the halo over the edge is enough.
  const edge = marks ? "" : quick && selected ? "" : "stroke-ink/45";
  return (
    <>
      {isCut(layer) && !marks && (
        <path d={path} transform={`translate(${drop * 0.7} ${drop})`} className="fill-black/25" />
      )}
      <path
        d={path}
        fill={sunk ? "var(--ink)" : shaded}
        fillOpacity={sunk ? 0.28 : 1}
        vectorEffect="non-scaling-stroke"
        strokeWidth={marks ? 2 : 0.75}
        stroke={marks ? colour : undefined}
        className={edge}
      />
      {paint && <StagePaint id={layer.id} paint={paint} path={path} />}
    </>
  );
}

/** The outline of the selected layer, and the outlines before and after the step that is pointed at. */
function Halo({ building, shown }: { building: Building; shown: Layer[] }) {
  const selected = useSelection((state) => state.layer);
  const stage = useShownStage();
  const built = building.built;
  const layer = shown.find((one) => one.id === (stage?.layer ?? selected));
  const outlines = useOutlines(stage);
  if (!built || !layer) return null;
  const after = outlines?.after || built.paths.get(layer.id) || "";
  return (
    <g fill="none" pointerEvents="none" className="stroke-glow">
      {built.exact && (
        <path d={after} vectorEffect="non-scaling-stroke" strokeWidth={7} strokeOpacity={0.35} />
      )}
      <path
        d={after}
        data-testid="after"
        vectorEffect="non-scaling-stroke"
        strokeWidth={built.exact ? 2 : HAIRLINE}
      />
      {outlines?.before && (
        <>
          <path
            d={outlines.before}
            vectorEffect="non-scaling-stroke"
            strokeWidth={1.5}
            className="stroke-ink/60"
          />
          <path
            d={outlines.before}
            data-testid="before"
            vectorEffect="non-scaling-stroke"
            strokeWidth={1.5}
            strokeDasharray="4 3"
            className="stroke-sheet"
          />
        </>
      )}
    </g>
  );
}

type Stage = { layer: string; step: number } | null;

/** The step whose outlines are shown: the one pointed at, or the thickening of the selected layer. */
function useShownStage(): Stage {
  const design = useDesign();
  const stage = useSelection((state) => state.stage);
  const selected = useSelection((state) => state.layer);
  if (stage) return stage;
  const layer = design.layers.find((one) => one.id === selected);
  const step = layer?.recipe.steps.findIndex((one) => one.op === "thicken") ?? -1;
  return layer && step >= 0 ? { layer: layer.id, step } : null;
}

function useOutlines(stage: Stage) {
  return useAsked(stage && ["stage", stage.layer, stage.step], (document, signal) =>
    api.stage({ document, layer: stage?.layer ?? "", step: stage?.step ?? 0 }, signal),
  );
}
