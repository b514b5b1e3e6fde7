// How each process leaves: as a line or a filled area, in a colour, how wide. Kept with the design, saved as one's own.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import { api } from "../api/client";
import { TABLE } from "../api/facts";
import { LEAVING, type Leaves, patchLeaving } from "../document/handOver";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, now, usePart, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { attempt, Failure } from "../ui/Failure";
import { say } from "../ui/toast";
import { Swatch } from "./Swatch";

const DRAWN = [
  { value: "line" as const, text: "a line" },
  { value: "area" as const, text: "a filled area" },
];

export function ProcessTable() {
  return (
    <>
      <table className="mt-2 w-full text-left">
        <thead className="text-soft text-xs">
          <tr className="border-line border-b">
            <th className="py-1 font-normal">Process</th>
            <th className="font-normal">Leaves as</th>
            <th className="font-normal">Colour</th>
            <th className="font-normal">Width</th>
            <th className="font-normal">Spot colour</th>
          </tr>
        </thead>
        <tbody>
          {LEAVING.map(([process, title]) => (
            <Row key={process} process={process} title={title} />
          ))}
        </tbody>
      </table>
      <OwnTables />
    </>
  );
}

function Row({ process, title }: { process: Leaves; title: string }) {
  const unit = useUnit();
  const leaving = usePart((design) => design.hand_over.table[process]);
  const set = (change: Partial<typeof leaving>, gesture?: string) =>
    edits((design) => patchLeaving(design, process, change), gesture && `leaving.${process}.${gesture}`);
  return (
    <tr className="border-line border-b last:border-0">
      <th className="py-1.5 font-semibold">{title}</th>
      <td>
        <Choice
          inline
          label={`${title} leaves as`}
          value={leaving.draw}
          groups={[{ options: DRAWN }]}
          onChange={(draw) => edit(set({ draw }).change)}
        />
      </td>
      <td>
        <Swatch
          label={`Colour of what is done by ${title.toLowerCase()}`}
          colour={leaving.colour}
          none="material's"
          start={TABLE[process].colour ?? "#444444"}
          onChange={(colour) => edit(set({ colour }).change, `leaving.${process}.colour`)}
        />
      </td>
      <td>
        {leaving.draw === "line" ? (
          <EditNumber
            inline
            label={`Line width of ${title.toLowerCase()}`}
            value={leaving.line_width}
            unit={unit}
            above={0}
            max={100}
            step={unit === "mm" ? 0.05 : 0.002}
            edits={(line_width) => set({ line_width }, "width")}
          />
        ) : (
          <span className="text-soft">–</span>
        )}
      </td>
      <td>
        {leaving.draw === "line" && (
          <input
            aria-label={`Spot colour of ${title.toLowerCase()}`}
            title="Its name in PDF and EPS"
            placeholder={title}
            value={leaving.spot}
            maxLength={40}
            className="h-7 w-20 rounded border border-line bg-sheet px-1"
            onChange={(event) =>
              edit(
                set({ spot: event.target.value.replace(/[^ -'*-[\]-~]/g, "") }).change,
                `leaving.${process}.spot`,
              )
            }
          />
        )}
      </td>
    </tr>
  );
}

/** Tables saved under a name, to be used in other designs. */
function OwnTables() {
  const queries = useQueryClient();
  const { data = [] } = useQuery({ queryKey: ["tables"], queryFn: api.tables });
  const [name, setName] = useState("");
  const told = async (work: () => Promise<unknown>, said: string) => {
    await attempt("tables", async () => {
      await work();
      say(said);
    });
    await queries.invalidateQueries({ queryKey: ["tables"] });
  };
  const save = () => {
    const title = name.trim();
    if (!title) return;
    setName("");
    void told(() => api.saveTable(title, now().hand_over.table), `The preset is saved as “${title}”.`);
  };
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <form
        className="flex items-center gap-1.5"
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <input
          aria-label="Name of the preset"
          placeholder="A name for these"
          value={name}
          maxLength={80}
          className="h-8 w-44 rounded-lg border border-line bg-sheet px-2.5"
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" disabled={!name.trim()}>
          Save as preset
        </Button>
      </form>
      {data
        .filter((own) => !own.shipped)
        .map((own) => (
          <span key={own.name} className="inline-flex items-center rounded-lg border border-line pl-2">
            {own.name}
            <IconButton
              label={`Forget the preset ${own.name}`}
              className="size-7"
              onClick={() =>
                void told(() => api.removeTable(own.name), `The preset “${own.name}” is forgotten.`)
              }
            >
              <Trash2 size={14} />
            </IconButton>
          </span>
        ))}
      <Failure place="tables" className="basis-full" />
    </div>
  );
}
