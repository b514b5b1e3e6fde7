// What the job sheet counts a job with: a minute at the machine, and a sheet of each material.

import { useEffect, useState } from "react";
import { patchCosts } from "../document/handOver";
import { readable } from "../document/readable";
import type { HandingOver } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { useMaterials } from "../layers/catalogue";
import { edit, edits, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { Fold } from "./Fold";

/** Where this browser keeps what a minute cost last. */
const LAST = "tinhalo.costs";

function lastCosts(): HandingOver["costs"] | null {
  const kept = localStorage.getItem(LAST);
  return kept ? (JSON.parse(kept) as HandingOver["costs"]) : null;
}

export function Costs() {
  const { hand_over, layers } = useDesign();
  const materials = useMaterials();
  const { per_minute, currency } = hand_over.costs;
  const made = materials.filter((one) => layers.some((layer) => layer.material === one.id));
  const priced = made.filter((one) => one.price > 0);
  const [last] = useState(lastCosts);
  useEffect(() => {
    if (per_minute > 0) localStorage.setItem(LAST, JSON.stringify({ per_minute, currency }));
  }, [per_minute, currency]);
  const counted = per_minute > 0 || priced.length > 0;
  return (
    <Fold title="Costs" state={counted ? "in the job sheet" : "not counted"}>
      <p className="leading-8">
        A minute at the machine costs{" "}
        <EditNumber
          inline
          label="Price of a minute"
          value={per_minute}
          unit={null}
          decimals={2}
          min={0}
          max={10_000}
          edits={(to) => edits((design) => patchCosts(design, { per_minute: to }), "costs.minute")}
        />{" "}
        <input
          aria-label="Currency"
          value={currency}
          maxLength={8}
          className="w-14 rounded border border-line bg-paper px-1.5"
          onChange={(event) =>
            edit((design) => patchCosts(design, { currency: readable(event.target.value) }), "costs.currency")
          }
        />
        {per_minute === 0 && last && (
          <Button look="quiet" className="ml-2 px-2" onClick={() => edit((now) => patchCosts(now, last))}>
            As last time: {last.per_minute.toFixed(2)} {last.currency}
          </Button>
        )}
      </p>
      <p className="text-soft text-xs">
        {priced.map((one) => `${one.name}: ${one.price.toFixed(2)} ${currency} a sheet. `)}
        {priced.length < made.length &&
          "The price of a sheet stands with the material: in a layer’s menu, Material and its limits."}
      </p>
    </Fold>
  );
}
