// How a board is carved: what stands how high, with which bit, and why each distance is what it is.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Minus, Plus, TriangleAlert } from "lucide-react";
import { memo } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { LEVEL } from "../api/facts";
import { freshId } from "../api/freshId";
import { addLevel, carvedLayers, dropLevel, patchCarving, patchLevel, setLevel } from "../document/carving";
import type { Carving, Design } from "../document/types";
import { length } from "../document/units";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, useDesign, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useRested } from "../ui/rested";
import { Waiting } from "../ui/Waiting";
import { ToolChoice } from "./ToolChoice";
import { ToolsButton } from "./ToolsPanel";

const MOST_LEVELS = 6;

export const CarvingPanel = memo(function CarvingPanel() {
  const design = useDesign();
  return design.carving ? <Panel design={design} carving={design.carving} /> : null;
});

/** What the request for it is called: whoever shows it shares one. */
const CARVING = freshId();

/** What the server makes of a carving, as it rests. */
export function useCarving(design: Design) {
  const rested = useRested(design);
  return useQuery({
    queryKey: ["carving", JSON.stringify([rested.art, rested.layers, rested.carving, rested.materials])],
    queryFn: ({ signal }) => api.carving(rested, signal, CARVING),
    enabled: rested.carving !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    retry: false,
    placeholderData: (before) => before,
  });
}

function Panel({ design, carving }: { design: Design; carving: Carving }) {
  const queries = useQueryClient();
  const unit = useUnit();
  const { data, error, isFetching } = useCarving(design);
  const layers = carvedLayers(design);
  const called = (id: string) => {
    const layer = design.layers.find((one) => one.id === id);
    return layer?.name.trim() || id;
  };
  const loose = layers.filter((one) => one.level === null);
  return (
    <section aria-label="Carving" className="border-line border-t px-3 py-2">
      <div className="flex items-center gap-1">
        <h2 className="flex-1 font-display font-semibold text-lg">Carving</h2>
        <ToolsButton />
        <IconButton
          label="One level less"
          className="size-7"
          disabled={carving.levels.length < 2}
          onClick={() => edit(dropLevel)}
        >
          <Minus size={15} />
        </IconButton>
        <IconButton
          label="One more level under these"
          className="size-7"
          disabled={carving.levels.length >= MOST_LEVELS}
          onClick={() => edit(addLevel)}
        >
          <Plus size={15} />
        </IconButton>
      </div>
      <div className="slim max-h-[26vh] overflow-y-auto">
        <p className="leading-8">
          <b className="font-semibold">{called(carving.board)}</b> is carved by{" "}
          <ToolChoice
            label="V-bit"
            kind="v_bit"
            value={carving.bit}
            onChange={(bit) => edit((now) => patchCarving(now, { bit }))}
          />
          , floors are cleared by{" "}
          <ToolChoice
            label="End mill"
            kind="end_mill"
            value={carving.mill}
            none="nothing else"
            onChange={(mill) => edit((now) => patchCarving(now, { mill }))}
          />
          .
        </p>
        {(carving.sunk.length === 0 || carving.levels.some((one) => one.layers.length > 0)) && (
          <ol className="flex flex-col gap-1">
            {carving.levels.map((level, index) => (
              <Level
                // biome-ignore lint/suspicious/noArrayIndexKey: levels have no names, only their place
                key={index}
                index={index}
                depth={level.depth}
                titles={level.layers.map(called)}
                reasons={data?.passes[index]?.reasons ?? []}
              />
            ))}
          </ol>
        )}
        {carving.sunk.length > 0 && (
          <p className="leading-7">
            Sunk into the top: <span className="font-semibold">{carving.sunk.map(called).join(", ")}</span>,
            at most{" "}
            <EditNumber
              inline
              label="Depth of what is sunk"
              value={carving.sunk_depth}
              unit={unit}
              above={0}
              max={200}
              edits={(sunk_depth) => edits((now) => patchCarving(now, { sunk_depth }), "carving.sunk")}
            />{" "}
            deep.
          </p>
        )}
        {layers.length > 0 && (
          <ul className="mt-1 flex flex-col">
            {layers.map(({ layer, level }) => (
              <li key={layer.id} className="flex h-8 items-center gap-2">
                <span className="min-w-0 flex-1 truncate">{called(layer.id)}</span>
                <Choice
                  inline
                  label={`Where ${called(layer.id)} stands`}
                  value={level === null ? "none" : String(level)}
                  groups={[
                    {
                      options: placesIn(
                        carving,
                        loose.some((one) => one.layer === layer),
                      ),
                    },
                  ]}
                  onChange={(next) =>
                    edit((now) => setLevel(now, layer.id, next === "sunk" ? next : Number(next)))
                  }
                />
              </li>
            ))}
          </ul>
        )}
      </div>
      {data?.told.map((sentence) => (
        <p key={sentence} className="mt-1 flex gap-1.5 text-alarm">
          <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-hidden="true" />
          {sentence}
        </p>
      ))}
      {error && (
        <p role="alert" className="mt-1 text-alarm">
          {error instanceof Problem ? error.sentence : "It cannot be worked out."}
        </p>
      )}
      <Waiting
        what="Working the carving out"
        name={CARVING}
        busy={isFetching}
        cancel={() => void queries.cancelQueries({ queryKey: ["carving"] })}
      />
    </section>
  );
}

const placesIn = (carving: Carving, loose: boolean) => [
  ...carving.levels.map((_, index) => ({ value: String(index), text: placeOf(index) })),
  { value: "sunk", text: "sunk into the top" },
  ...(loose ? [{ value: "none", text: "nowhere yet" }] : []),
];

const placeOf = (index: number) =>
  index === 0 ? "at the top" : index === 1 ? "on the first ground" : `on ground ${index}`;

type LevelProps = { index: number; depth: number; titles: string[]; reasons: string[] };

function Level({ index, depth, titles, reasons }: LevelProps) {
  const unit = useUnit();
  const { carving } = useDesign();
  const start = carving?.levels.slice(0, index).reduce((sum, one) => sum + one.depth, 0) ?? 0;
  const names = titles.join(", ") || "nothing yet";
  return (
    <li className="border-line border-l-4 pl-2 leading-7">
      {placeOf(index).replace(/^./, (letter) => letter.toUpperCase())}:{" "}
      <span className="font-semibold">{names}</span>. The ground around goes{" "}
      <EditNumber
        inline
        label={index === 0 ? "Depth of the first ground" : `Depth of ground ${index + 1}`}
        value={depth}
        unit={unit}
        above={0}
        max={LEVEL.ranges.depth?.max ?? 200}
        edits={(next) => edits((now) => patchLevel(now, index, { depth: next }), `carving.${index}`)}
      />{" "}
      {index === 0 ? "deep" : `deeper, from ${length(start, unit)} to ${length(start + depth, unit)}`}.
      {reasons.map((reason, higher) => (
        <span key={reason} className="block text-soft text-xs leading-5">
          What stands {placeOf(higher)} is wider here all round by {reason}
          {higher === 0 && ", the frame's opening as much smaller"}.
        </span>
      ))}
    </li>
  );
}
