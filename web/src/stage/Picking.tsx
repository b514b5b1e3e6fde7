// Pieces and holes of one layer, picked on the stage to keep, drop or fill. The choice becomes a step.

import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect } from "react";
import { create } from "zustand";
import type { Mend } from "../api/answers";
import { api, type Piece } from "../api/client";
import { patchLayer } from "../document/layers";
import { newStep } from "../document/recipes";
import type { Anchor, Recipe } from "../document/types";
import { area } from "../document/units";
import { useMending } from "../findings/mending";
import { counted } from "../recipe/phrases/parts";
import { useOutlinesKey } from "../state/asked";
import { select, useSelection } from "../state/selection";
import { edit, useDesign, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import type { View } from "./view";

/** What is picked, by its kind and place in the server's list, for the document it was listed for. */
const usePicked = create<{ pieces: Piece[] }>(() => ({ pieces: [] }));

function same(a: Piece, b: Piece): boolean {
  return a.kind === b.kind && a.path === b.path;
}

export function StagePieces({ layer, view }: { layer: string; view: View }) {
  const design = useDesign();
  const unit = useUnit();
  // Not the key of the outlines: these are drawn finer once nothing changes, and are the same pieces.
  const key = useOutlinesKey(design);
  const { data } = useQuery({
    queryKey: ["pieces", layer, key],
    queryFn: () => api.pieces(design, layer),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const picked = usePicked((state) => state.pieces);
  // Other outlines have other pieces.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key tells when there are others
  useEffect(() => usePicked.setState({ pieces: [] }), [key]);

  const toggle = (piece: Piece) =>
    usePicked.setState({
      pieces: picked.some((one) => same(one, piece))
        ? picked.filter((one) => !same(one, piece))
        : [...picked, piece],
    });
  const counts = { piece: 0, hole: 0 };
  return (
    <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`} fillRule="evenodd">
      {data?.map((piece) => {
        const on = picked.some((one) => same(one, piece));
        const number = ++counts[piece.kind];
        const keys = (event: KeyboardEvent) => {
          if (event.key === "Escape") select({ picking: null });
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          toggle(piece);
        };
        return (
          <path
            key={`${piece.kind}-${piece.path}`}
            d={piece.path}
            role="checkbox"
            tabIndex={0}
            aria-checked={on}
            aria-label={`${piece.kind === "piece" ? "Piece" : "Hole"} ${number}, ${area(piece.area_mm2, unit)}`}
            vectorEffect="non-scaling-stroke"
            strokeWidth={on ? 3 : 1.5}
            strokeDasharray={piece.kind === "hole" ? "4 3" : undefined}
            className={`pointer-events-auto cursor-pointer outline-none hover:fill-glow/50 focus-visible:fill-glow/50 ${on ? "fill-glow/60 stroke-halo" : "fill-transparent stroke-glow"}`}
            onPointerDown={(event) => event.stopPropagation()}
            onClick={() => toggle(piece)}
            onKeyDown={keys}
          />
        );
      })}
    </g>
  );
}

/** What can be done with what is picked. */
export function PickBar() {
  const design = useDesign();
  const picking = useSelection((state) => state.picking);
  const picked = usePicked((state) => state.pieces);
  const through = useMending("Filling…", false);
  const layer = design.layers.find((one) => one.id === picking);
  useEffect(() => {
    if (picking !== null && !layer) select({ picking: null });
  }, [picking, layer]);
  if (!layer) return null;
  const spots = (kind: Piece["kind"]) => picked.filter((one) => one.kind === kind).map((one) => one.spot);
  const pieces = spots("piece");
  const holes = spots("hole");
  const add = (make: (recipe: Recipe) => Recipe) =>
    edit((one) => patchLayer(one, layer.id, { recipe: make(layer.recipe) }));
  const nothing = picked.length === 0;
  return (
    <section
      aria-label={`Pieces of ${layer.name.trim() || layer.id}`}
      className="absolute bottom-14 left-9 flex items-center gap-2 rounded-xl border border-line bg-sheet py-1 pr-1 pl-3 shadow-black/10 shadow-md"
    >
      <span className="text-soft">
        {nothing
          ? "Click pieces and holes to pick them"
          : [pieces.length && counted(pieces.length, "piece"), holes.length && counted(holes.length, "hole")]
              .filter(Boolean)
              .join(" and ")}
      </span>
      {pieces.length > 0 && (
        <>
          <Button onClick={() => add((recipe) => withPicks(recipe, "keep", pieces))}>Keep only these</Button>
          <Button onClick={() => add((recipe) => withPicks(recipe, "drop", pieces))}>Drop</Button>
        </>
      )}
      {holes.length > 0 && (
        <>
          <Button onClick={() => add((recipe) => withFilled(recipe, holes))}>Fill</Button>
          {design.layers.at(-1) !== layer && (
            <Button onClick={() => through.run(fillThrough(layer.id, holes))}>
              Fill, in all under it too
            </Button>
          )}
        </>
      )}
      <Button look="quiet" onClick={() => select({ picking: null })}>
        Done
      </Button>
    </section>
  );
}

const fillThrough = (layer: string, only: Anchor[]): Mend => ({
  title: "Filled in all layers from here down",
  changes: [{ change: "fill_through", layer, only }],
  here: false,
});

/** Dropping more goes into the step that drops already; keeping fewer is a step of its own. */
function withPicks(recipe: Recipe, op: "keep" | "drop", pieces: Anchor[]): Recipe {
  const last = recipe.steps.at(-1);
  if (op === "drop" && last?.op === "drop" && !last.off)
    return { ...recipe, steps: recipe.steps.with(-1, { ...last, pieces: [...last.pieces, ...pieces] }) };
  return { ...recipe, steps: [...recipe.steps, { ...newStep(op), pieces }] };
}

function withFilled(recipe: Recipe, holes: Anchor[]): Recipe {
  const last = recipe.steps.at(-1);
  if (last?.op === "fill_holes" && last.only && !last.off)
    return { ...recipe, steps: recipe.steps.with(-1, { ...last, only: [...last.only, ...holes] }) };
  return { ...recipe, steps: [...recipe.steps, { ...newStep("fill_holes"), only: holes }] };
}
