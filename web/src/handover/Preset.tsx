// What the files are for: a preset says how each process leaves; the one used last stands first.

import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { setTable, usualTable } from "../document/handOver";
import { edit, usePart } from "../state/timeline";
import { Choice } from "../ui/Choice";

const LAST = "tinhalo.preset";
const USUAL = "as usual";
const OWN = "as set below";

export function Preset() {
  const table = usePart((design) => JSON.stringify(design.hand_over.table));
  const { data = [] } = useQuery({ queryKey: ["tables"], queryFn: api.tables });
  const all = [{ name: USUAL, table: usualTable(), shipped: true }, ...data];
  const last = localStorage.getItem(LAST);
  const ordered = [...all.filter((one) => one.name === last), ...all.filter((one) => one.name !== last)];
  const now = ordered.find((one) => JSON.stringify(one.table) === table)?.name ?? OWN;
  const options = ordered.map((one) => ({ value: one.name, text: one.name }));
  return (
    <p className="leading-8">
      Colours and lines{" "}
      <Choice
        inline
        label="Preset"
        value={now}
        groups={[{ options: now === OWN ? [{ value: OWN, text: OWN }, ...options] : options }]}
        onChange={(name) => {
          const chosen = all.find((one) => one.name === name);
          if (!chosen) return;
          localStorage.setItem(LAST, name);
          edit((design) => setTable(design, chosen.table));
        }}
      />
    </p>
  );
}
