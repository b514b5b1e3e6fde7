// Layers that step out evenly under one: how many, and how much further out each lies than the one above.

import { Dialog } from "radix-ui";
import { useState } from "react";
import { stepOut, stepsUnder } from "../document/steppingOut";
import type { Layer } from "../document/types";
import { LEAST_MM } from "../fields/limits";
import { select, useSelection } from "../state/selection";
import { edit, useDesign, usePart, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { Panel, PanelTitle } from "../ui/Panel";
import { looksLike, useMaterials } from "./catalogue";
import { shades } from "./colours";

export function StepCopies() {
  const stepping = useSelection((state) => state.stepping);
  const layer = usePart((design) => design.layers.find((one) => one.id === stepping));
  const close = () => select({ stepping: null });
  return (
    <Dialog.Root open={layer !== undefined} onOpenChange={(open) => open || close()}>
      {layer && (
        <Panel className="w-96 max-w-[92vw] p-6" typed>
          <Steps layer={layer} name={layer.name.trim() || layer.id} onDone={close} />
        </Panel>
      )}
    </Dialog.Root>
  );
}

function Steps({ layer, name, onDone }: { layer: Layer; name: string; onDone: () => void }) {
  const unit = useUnit();
  const design = useDesign();
  const there = stepsUnder(design, layer.id);
  const { colour } = looksLike(useMaterials(), layer);
  const [count, setCount] = useState(there?.layers.length ?? 3);
  const [by, setBy] = useState(there?.by ?? 2);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        edit((before) => stepOut(before, layer.id, shades(colour, count), by));
        onDone();
      }}
    >
      <PanelTitle title={`Steps under ${name}`} />
      <p className="my-4 leading-7">
        Each{" "}
        <NumberField
          inline
          label="Width of a step"
          value={by}
          unit={unit}
          min={LEAST_MM}
          max={100}
          onChange={setBy}
        />{" "}
        further out than the one above it, everywhere the same, in{" "}
        <NumberField
          inline
          label="Number of steps"
          value={count}
          unit={null}
          min={1}
          max={20}
          step={1}
          onChange={(value) => setCount(Math.round(value))}
        />{" "}
        layers.
      </p>
      <Button look="main" type="submit">
        {there ? "Change steps" : `Add ${count === 1 ? "one layer" : `${count} layers`}`}
      </Button>
    </form>
  );
}
