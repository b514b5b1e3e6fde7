// Fewer nodes, with the largest deviation that comes of it told before.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import type { OutlineArt } from "../document/types";
import { length } from "../document/units";
import { useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { useRested } from "../ui/rested";
import { editOutline } from "./turning";

export function SimplifyForm({ art }: { art: OutlineArt }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="group" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-soft text-xs hover:text-ink">Simplify</summary>
      {open && <Form art={art} />}
    </details>
  );
}

function Form({ art }: { art: OutlineArt }) {
  const unit = useUnit();
  const [within, setWithin] = useState(0.05);
  const path = useRested(art.path);
  const wanted = useRested(within, 120);
  const tried = useQuery({
    queryKey: ["simplified", path, wanted],
    queryFn: ({ signal }) => api.editOutline({ path, edit: { op: "simplify", within: wanted } }, signal),
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const made = tried.data;
  const fewer = made !== undefined && made.nodes < made.nodes_before;
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1">
      <span className="leading-7">
        within{" "}
        <NumberField
          inline
          label="Largest deviation"
          value={within}
          unit={unit}
          step={unit === "mm" ? 0.01 : 0.001}
          decimals={3}
          min={0.001}
          max={10}
          onChange={setWithin}
        />
      </span>
      <span role="status" className="flex-1 text-soft text-xs" data-testid="simplified">
        {tried.error
          ? "It cannot be tried."
          : !made
            ? "Trying…"
            : fewer
              ? `${made.nodes_before} → ${made.nodes} nodes, at most ${length(made.deviation_mm, unit)} off`
              : "It has no fewer nodes then."}
      </span>
      <Button
        className="h-7 px-2"
        disabled={!fewer}
        onClick={() => void editOutline(art.id, { op: "simplify", within: wanted })}
      >
        Simplify
      </Button>
    </div>
  );
}
