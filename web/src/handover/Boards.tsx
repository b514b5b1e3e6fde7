// What leaves, board by board: each layer with what is done to it, and how it leaves.

import { FlipHorizontal2 } from "lucide-react";
import { useState } from "react";
import { type Board, leavesMirrored, leavingOf, overrideLeaving, putOnBoard } from "../document/handOver";
import { readable } from "../document/readable";
import type { Layer } from "../document/types";
import { looksLike, useMaterials } from "../layers/catalogue";
import { edit, useDesign } from "../state/timeline";
import { Choice } from "../ui/Choice";
import { Swatch } from "./Swatch";

type Props = { boards: Board[] };

const DONE: Record<Layer["process"], string> = {
  cut: "cut",
  through: "cut through",
  score: "scored",
  draw: "drawn",
  engrave: "engraved",
  print: "printed",
  carve: "carved",
  guide: "guide",
};

export function Boards({ boards }: Props) {
  const materials = useMaterials();
  const design = useDesign();
  return (
    <table className="w-full text-left">
      <thead className="text-soft text-xs">
        <tr className="border-line border-b">
          <th className="py-1 font-normal">Board and layers</th>
          <th className="font-normal">Leaves as</th>
          <th className="font-normal">Own board</th>
        </tr>
      </thead>
      {boards.map((one) => {
        const { key, material, colour, board, layers } = one;
        return (
          <tbody key={key}>
            <tr>
              <th colSpan={3} className="pt-2.5 pb-0.5">
                <span className="flex items-center gap-2 font-semibold">
                  <span
                    className="size-3.5 rounded-sm border border-ink/30"
                    style={{ background: looksLike(materials, one).colour }}
                  />
                  {board && `${board}, `}
                  {materials.find((one) => one.id === material)?.name ?? material}
                  {colour && `, ${colour}`}
                  {leavesMirrored(design, one, materials) && (
                    <span className="flex items-center gap-1 font-normal text-soft text-xs">
                      <FlipHorizontal2 size={14} aria-hidden="true" /> leaves mirrored
                    </span>
                  )}
                </span>
              </th>
            </tr>
            {layers.map((layer) => (
              <Row key={layer.id} layer={layer} />
            ))}
          </tbody>
        );
      })}
    </table>
  );
}

function Row({ layer }: { layer: Layer }) {
  const name = layer.name.trim() || layer.id;
  return (
    <tr className="border-line border-b">
      <td className="py-1.5 pr-3 pl-5">
        {name} <span className="text-soft text-xs">{DONE[layer.process]}</span>
      </td>
      <td className="pr-3">
        <LeavesAs layer={layer} name={name} />
      </td>
      <td className="pr-3">
        <OwnBoard layer={layer} name={name} />
      </td>
    </tr>
  );
}

/** The name of the board a layer is put on; it moves there once the name is whole. */
function OwnBoard({ layer, name }: { layer: Layer; name: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const done = () => {
    if (typed !== null) edit((design) => putOnBoard(design, layer.id, typed));
    setTyped(null);
  };
  return (
    <input
      aria-label={`Board of ${name}`}
      placeholder="its material's"
      title="Layers with the same name here come from one board; left empty, from that of their material"
      value={typed ?? layer.board ?? ""}
      maxLength={64}
      className="h-7 w-28 rounded border border-transparent bg-transparent px-1 hover:border-line focus:border-line"
      onChange={(event) => setTyped(readable(event.target.value))}
      onKeyDown={(event) => event.key === "Enter" && done()}
      onBlur={done}
    />
  );
}

const WAYS = [
  { value: "usual" as const, text: "as its process" },
  { value: "line" as const, text: "a line" },
  { value: "area" as const, text: "a filled area" },
];

/** As its process leaves, or otherwise. */
function LeavesAs({ layer, name }: { layer: Layer; name: string }) {
  const design = useDesign();
  const leaving = leavingOf(design, layer);
  if (!leaving) return null;
  const own = layer.leaving;
  const drawn = leaving.draw === "line" ? "a line" : "a filled area";
  return (
    <span className="inline-flex items-center gap-1.5">
      <span
        className={`size-3.5 shrink-0 rounded-sm ${leaving.draw === "line" ? "border-2" : ""}`}
        style={{
          background: leaving.draw === "area" ? (leaving.colour ?? undefined) : undefined,
          borderColor: leaving.colour ?? undefined,
        }}
      />
      <Choice
        inline
        label={`${name} leaves as`}
        value={own ? own.draw : "usual"}
        groups={[
          {
            options: WAYS.map((way) =>
              way.value === "usual" ? { ...way, text: `${drawn}, as usual` } : way,
            ),
          },
        ]}
        onChange={(way) =>
          edit((one) => overrideLeaving(one, layer.id, way === "usual" ? null : { ...leaving, draw: way }))
        }
      />
      {own && (
        <Swatch
          label={`Colour of ${name}`}
          colour={own.colour}
          none="the material's"
          start="#444444"
          onChange={(colour) =>
            edit((one) => overrideLeaving(one, layer.id, { ...own, colour }), `${layer.id}.colour`)
          }
        />
      )}
    </span>
  );
}
