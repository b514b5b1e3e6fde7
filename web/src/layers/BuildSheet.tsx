// The build sheet: the finished stack seen edge-on, each band joined to the card that says how it is made.

import { Plus } from "lucide-react";
import { memo, useLayoutEffect, useRef, useState } from "react";
import { addLayer, moveLayer } from "../document/layers";
import type { Layer } from "../document/types";
import { length } from "../document/units";
import { isOpenCause } from "../findings/findings";
import type { Building } from "../state/building";
import { selectLayer, useSelection } from "../state/selection";
import { edit, now, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { ColourWays } from "./ColourWays";
import { looksLike, useMaterials } from "./catalogue";
import { LayerCard } from "./LayerCard";

const STACK_WIDTH = 18;
const GUTTER = 14;
const PX_PER_MM = 9;
const SHORTEST = 40;
const TALLEST = 120;
const THINNEST = 2.5;
const HEAD = 30;

export const BuildSheet = memo(function BuildSheet({ building }: { building: Building }) {
  const design = useDesign();
  const list = useRef<HTMLOListElement>(null);
  const tops = useCardTops(list, design.layers);
  const opened = useSelection((state) => state.opened);
  const open = design.layers.find((layer) => layer.id === opened) ?? design.layers[0];
  const add = () => {
    edit(addLayer);
    selectLayer(now().layers.at(-1)?.id ?? null);
  };
  const thickness = building.built?.reply.stack?.height_mm;

  // The dragged card takes the place between the cards whose middles are above and below the pointer.
  const dragTo = (id: string, clientY: number) => {
    const { layers } = now();
    const others = [...(list.current?.children ?? [])].filter((_, index) => layers[index]?.id !== id);
    const above = others.filter((card) => {
      const box = card.getBoundingClientRect();
      return box.top + box.height / 2 < clientY;
    });
    edit((d) => moveLayer(d, id, above.length), `reorder.${id}`);
  };

  return (
    <section aria-label="Build sheet" data-build={building.built?.count} className="px-3 py-1">
      <div className="mb-1 flex items-center gap-2">
        <h2 className="flex-1 font-display font-semibold text-lg">Build sheet</h2>
        {thickness !== undefined && (
          <span className="text-soft text-xs">{length(thickness, design.unit)} thick</span>
        )}
        <ColourWays />
        <Button
          look="quiet"
          className="px-1.5"
          title="Add a layer at the bottom"
          aria-label="Add a layer at the bottom"
          onClick={add}
        >
          <Plus size={15} /> Layer
        </Button>
      </div>
      <div className="relative">
        <Stack layers={design.layers} tops={tops} />
        <ol ref={list} className="flex flex-col gap-1" style={{ marginLeft: STACK_WIDTH + GUTTER }}>
          {design.layers.map((layer, index) => (
            <LayerCard
              key={layer.id}
              layer={layer}
              open={layer === open}
              index={index}
              measures={building.built?.reply.layers.find((one) => one.id === layer.id) ?? null}
              findings={
                building.built?.causes.filter((one) => one.layer === layer.id && isOpenCause(one)).length ?? 0
              }
              onDrag={dragTo}
            />
          ))}
        </ol>
      </div>
    </section>
  );
});

/** Bands as thick as the materials, each joined by a ribbon to its card. */
function Stack({ layers, tops }: { layers: Layer[]; tops: number[] }) {
  const materials = useMaterials();
  const selected = useSelection((state) => state.layer);
  const counted = layers.map((layer) => {
    const { colour, thickness } = looksLike(materials, layer);
    const absent = layer.hidden || layer.process === "guide" || layer.process === "carve";
    return { layer, colour, mm: absent ? 0 : thickness };
  });
  const total = counted.reduce((sum, band) => sum + band.mm, 0);
  // One scale for the whole stack: sheets of vinyl are magnified, tall stacks drawn smaller.
  const scale = Math.max(SHORTEST, Math.min(TALLEST, total * PX_PER_MM)) / Math.max(total, 0.01);
  let y = (tops[0] ?? 0) + 4;
  const bands = counted.map((band, index) => {
    const height = band.mm === 0 ? 0 : Math.max(THINNEST, band.mm * scale);
    const made = { ...band, y, height, top: (tops[index] ?? 0) + 4 };
    y += height;
    return made;
  });
  const right = STACK_WIDTH + GUTTER;
  const bend = (a: number, b: number) =>
    `${STACK_WIDTH},${a} C${STACK_WIDTH + GUTTER / 2},${a} ${STACK_WIDTH + GUTTER / 2},${b} ${right},${b}`;

  return (
    <svg aria-hidden="true" className="absolute top-0 left-0 h-full overflow-visible" width={right}>
      {bands
        .filter((band) => band.height > 0)
        .map(({ layer, colour, y: top, height, top: card }) => (
          <g key={layer.id}>
            <path
              d={`M${bend(top, card)} L${right},${card + HEAD - 8} C${STACK_WIDTH + GUTTER / 2},${card + HEAD - 8} ${STACK_WIDTH + GUTTER / 2},${top + height} ${STACK_WIDTH},${top + height}Z`}
              fill={colour}
              opacity={selected === layer.id ? 0.55 : 0.28}
            />
            <rect width={STACK_WIDTH} y={top} height={height} fill={colour} />
            <rect
              width={STACK_WIDTH - 0.5}
              x={0.25}
              y={top}
              height={height}
              fill="none"
              className={selected === layer.id ? "stroke-glow" : "stroke-ink/35"}
              strokeWidth={selected === layer.id ? 2 : 0.5}
            />
          </g>
        ))}
    </svg>
  );
}

/** Where each card starts inside the list, followed as cards grow and move. */
function useCardTops(list: React.RefObject<HTMLOListElement | null>, layers: Layer[]): number[] {
  const [tops, setTops] = useState<number[]>([]);
  useLayoutEffect(() => {
    // The cards are the list's children: layers tells when there are others.
    void layers;
    const element = list.current;
    if (!element) return;
    const measure = () =>
      setTops((before) => {
        const now = [...element.children].map((card) => (card as HTMLElement).offsetTop);
        return now.length === before.length && now.every((top, index) => top === before[index])
          ? before
          : now;
      });
    measure();
    const watch = new ResizeObserver(measure);
    for (const card of element.children) watch.observe(card);
    return () => watch.disconnect();
  }, [list, layers]);
  return tops;
}
