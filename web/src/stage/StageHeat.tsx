// How wide every stroke of a layer is: the narrower, the thicker and darker its middle line is drawn.

import { api } from "../api/client";
import { isCut } from "../document/handOver";
import type { Layer, Unit } from "../document/types";
import { length } from "../document/units";
import { useAsked } from "../state/asked";
import { useSelection } from "../state/selection";
import { useDesign, useUnit } from "../state/timeline";

/** From the narrowest band; thickness in pixels tells them apart without colour. */
const BANDS = [
  { colour: "var(--heat-0)", thickness: 6 },
  { colour: "var(--heat-1)", thickness: 4 },
  { colour: "var(--heat-2)", thickness: 2.5 },
  { colour: "var(--heat-3)", thickness: 1.2 },
];

/** The layer that is looked at: the selected one, or the top one that is cut. */
function useHeatLayer(): Layer | undefined {
  const { layers } = useDesign();
  const selected = useSelection((state) => state.layer);
  const shown = layers.filter((layer) => !layer.hidden);
  return shown.find((layer) => layer.id === selected) ?? shown.find(isCut) ?? shown[0];
}

function useHeat() {
  const layer = useHeatLayer();
  const heat = useAsked(layer ? ["heat", layer.id] : null, (document, signal) =>
    api.heat({ document, layer: layer?.id ?? "" }, signal),
  );
  return { layer, bands: heat?.bands };
}

export function StageHeat() {
  const { bands } = useHeat();
  return (
    <g fill="none" strokeLinecap="round" pointerEvents="none" data-testid="heat">
      {bands?.toReversed().map((band, index) => {
        const style = BANDS[BANDS.length - 1 - index];
        return (
          <path
            key={band.from_mm}
            d={band.path}
            vectorEffect="non-scaling-stroke"
            stroke={style?.colour}
            strokeWidth={style?.thickness}
          />
        );
      })}
    </g>
  );
}

export function HeatLegend() {
  const unit = useUnit();
  const { layer, bands } = useHeat();
  if (!layer) return null;
  const told = bands ?? [];
  return (
    <section
      aria-label="Widths"
      className="absolute bottom-4 left-10 flex max-w-[calc(100%-24rem)] max-[1100px]:bottom-16 max-[1100px]:max-w-[calc(100%-3rem)] flex-wrap items-center gap-x-4 rounded-xl border border-line bg-sheet px-3 py-1.5 text-xs shadow-black/10 shadow-md"
    >
      <span className="font-semibold">Strokes of {layer.name.trim() || layer.id}</span>
      {told.length === 0 && <span className="text-soft">Measuring…</span>}
      {told.map((band, index) => (
        <span key={band.from_mm} className="flex items-center gap-1.5">
          <svg width="22" height="10" aria-hidden="true">
            <path
              d="M3,5H19"
              strokeLinecap="round"
              stroke={BANDS[index]?.colour}
              strokeWidth={BANDS[index]?.thickness}
            />
          </svg>
          {said(band, index === 0, unit)}
        </span>
      ))}
    </section>
  );
}

function said(band: { from_mm: number; up_to_mm: number | null }, first: boolean, unit: Unit): string {
  if (band.up_to_mm === null) return `${length(band.from_mm, unit)} and more`;
  if (first) return `under ${length(band.up_to_mm, unit)}: too thin`;
  return `to ${length(band.up_to_mm, unit)}`;
}
