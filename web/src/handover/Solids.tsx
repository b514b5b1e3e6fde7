// Layers as solids, for those who print them: which files, how they are made, and what may go wrong with them.

import { useQuery } from "@tanstack/react-query";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { isCut, patchSolids, setSolidHeight } from "../document/handOver";
import type { HandingOver } from "../document/types";
import { length } from "../document/units";
import { EditNumber } from "../fields/EditNumber";
import { useMaterials } from "../layers/catalogue";
import { edit, edits, useDesign, usePart, useUnit } from "../state/timeline";
import { Choice } from "../ui/Choice";
import { useRested } from "../ui/rested";

type Set = HandingOver["solids"];

const FORMATS: [Set["formats"][number], string][] = [
  ["3mf", "3MF, with names and colours"],
  ["stl", "STL, a file for each layer and one of all"],
];

const EDGES = [
  { value: "sharp" as const, text: "sharp" },
  { value: "chamfer" as const, text: "chamfered" },
  { value: "round" as const, text: "rounded" },
];

export function Solids() {
  const set = usePart((design) => design.hand_over.solids);
  const toggle = (format: Set["formats"][number]) =>
    edit((design) =>
      patchSolids(design, {
        formats: FORMATS.map(([one]) => one).filter((one) =>
          one === format ? !set.formats.includes(one) : set.formats.includes(one),
        ),
      }),
    );
  return (
    <section aria-label="Solids">
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        {FORMATS.map(([format, text]) => (
          <label key={format} className="flex items-center gap-2">
            <input type="checkbox" checked={set.formats.includes(format)} onChange={() => toggle(format)} />
            {text}
          </label>
        ))}
      </div>
      {set.formats.length > 0 && <Making set={set} />}
    </section>
  );
}

function Making({ set }: { set: Set }) {
  const unit = useUnit();
  const step = unit === "mm" ? 0.1 : 0.005;
  const number = (
    field: "edge_size" | "let_in" | "clearance" | "engraved" | "least",
    label: string,
    min: number,
    max: number,
  ) => (
    <EditNumber
      inline
      label={label}
      value={set[field]}
      unit={unit}
      step={step}
      min={min}
      max={max}
      edits={(value) => edits((design) => patchSolids(design, { [field]: value }), `solids.${field}`)}
    />
  );
  return (
    <>
      <p className="leading-8">
        Upper edges are{" "}
        <Choice
          inline
          label="Upper edges of solids"
          value={set.edge}
          groups={[{ options: EDGES }]}
          onChange={(edge) => edit((design) => patchSolids(design, { edge }))}
        />
        {set.edge !== "sharp" && <> by {number("edge_size", "Size of the edges", 0.01, 50)}</>}. Layers lie{" "}
        {number("let_in", "How deep layers are let in", 0, 500)} deep in what is under them
        {set.let_in > 0 && (
          <>, in pockets with {number("clearance", "Clearance of the pockets", 0, 10)} around</>
        )}
        . What is engraved or scored goes {number("engraved", "Depth of what is engraved", 0.01, 100)} deep.
        Parts should be {number("least", "Least width of parts", 0.01, 100)} wide at least.
      </p>
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={set.as_one}
            onChange={({ target }) => edit((design) => patchSolids(design, { as_one: target.checked }))}
          />
          All layers as one solid
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={set.flat}
            onChange={({ target }) => edit((design) => patchSolids(design, { flat: target.checked }))}
          />
          Filled down to the table where they hang over
        </label>
      </div>
      <Each set={set} />
    </>
  );
}

/** Each layer's height, and what comes of it. */
function Each({ set }: { set: Set }) {
  const unit = useUnit();
  const design = useDesign();
  const materials = useMaterials();
  const rested = useRested(design);
  const { data, error, isFetching } = useQuery({
    queryKey: ["solids", JSON.stringify(rested)],
    queryFn: ({ signal }) => api.solids(rested, signal),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    retry: false,
  });
  const cut = design.layers.filter((layer) => !layer.hidden && isCut(layer));
  const thickness = (id: string) => materials.find((one) => one.id === id)?.thickness ?? 1;
  return (
    <div className="mt-1">
      <ul className="flex flex-col">
        {cut.map((layer) => {
          const name = layer.name.trim() || layer.id;
          const made = data?.find((one) => one.layer === layer.id);
          return (
            <li key={layer.id} className="leading-7">
              <span className="font-semibold">{name}</span> is{" "}
              <EditNumber
                inline
                label={`Height of ${name} as a solid`}
                value={set.heights.find((one) => one.layer === layer.id)?.height ?? thickness(layer.material)}
                unit={unit}
                min={0.1}
                max={500}
                edits={(height) =>
                  edits((now) => setSolidHeight(now, layer.id, height), `solids.${layer.id}`)
                }
              />{" "}
              high
              {made && (
                <span className="text-soft">
                  , from {length(made.bottom_mm, unit)} over the table; {(made.volume_mm3 / 1000).toFixed(1)}{" "}
                  cm³
                </span>
              )}
            </li>
          );
        })}
      </ul>
      {data
        ?.flatMap((one) => one.told)
        .map((sentence) => (
          <p key={sentence} className="text-alarm">
            {sentence}
          </p>
        ))}
      {data?.length === 0 && <p className="text-alarm">No layer is cut: there is nothing to make solid.</p>}
      {error && (
        <p role="alert" className="text-alarm">
          {error instanceof Problem ? error.sentence : "The solids cannot be made."}
        </p>
      )}
      {isFetching && <p className="shown-late text-soft text-xs">Making the solids…</p>}
    </div>
  );
}
