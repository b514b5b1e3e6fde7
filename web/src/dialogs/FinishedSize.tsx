// The finished size in the top edge; a click sets the width or height of the whole job.

import { Popover } from "radix-ui";
import { memo, type RefObject, useEffect, useRef, useState } from "react";
import { api, type BuildReply, Problem } from "../api/client";
import type { Unit } from "../document/types";
import { length } from "../document/units";
import { LEAST_MM } from "../fields/limits";
import { edit, now, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { SheetForm } from "./SheetForm";

type Side = "width" | "height";
type Distances = "kept" | "scaled";

const CHOICES: [Distances, string, string][] = [
  ["kept", "Distances stay", "Borders and overlaps stay as they are; only the words change"],
  ["scaled", "Distances change too", "Borders and overlaps get bigger or smaller with the words"],
];

type Bounds = NonNullable<BuildReply["finished_mm"]>;

type FinishedProps = { bounds: Bounds | null; build: number | undefined };

export const FinishedSize = memo(function FinishedSize({ bounds, build }: FinishedProps) {
  const unit = useUnit();
  const [open, setOpen] = useState(false);
  const size = bounds && ([bounds[2] - bounds[0], bounds[3] - bounds[1]] as const);
  // A size that is typed and not taken yet.
  const pending = useRef<(() => void) | null>(null);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        disabled={!size}
        title={`${size ? `${sides(size, unit)}: width` : "Width"} and height of what is made, without the bleed of prints. Click to set one`}
        className="whitespace-nowrap rounded-lg px-2 py-1 hover:bg-bench"
      >
        <span className="mr-2 text-soft text-xs max-[1000px]:sr-only">Finished size</span>
        <span
          data-testid="finished-size"
          data-build={build}
          className="font-display font-semibold text-base max-[900px]:text-sm"
        >
          {size ? sides(size, unit, unit === "mm" ? 1 : 2) : "nothing yet"}
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          aria-label="Finished size and sheet"
          onInteractOutside={(event) => {
            if (!pending.current) return;
            event.preventDefault();
            pending.current();
          }}
          className="z-50 w-80 rounded-xl border border-line bg-sheet p-4 shadow-black/15 shadow-xl"
        >
          {size && <SizeForm size={size} pending={pending} done={() => setOpen(false)} />}
          {bounds && (
            <div className="mt-3 border-line border-t pt-3">
              <SheetForm job={bounds} />
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

function sides([width, height]: readonly [number, number], unit: Unit, decimals?: number): string {
  return `${length(width, unit, decimals)} × ${length(height, unit, decimals)}`;
}

type SizeFormProps = {
  size: readonly [number, number];
  pending: RefObject<(() => void) | null>;
  done: () => void;
};

function SizeForm({ size, pending, done }: SizeFormProps) {
  const unit = useUnit();
  const [chosen, setChosen] = useState<{ side: Side; to: number } | null>(null);
  const wanted = chosen ?? { side: "width", to: size[0] };
  const [distances, setDistances] = useState<Distances>("kept");
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");

  const apply = async () => {
    setBusy(true);
    setTrouble("");
    const before = now();
    try {
      const made = await api.resize({ document: before, side: wanted.side, to_mm: wanted.to, distances });
      // What was typed while the server searched is not thrown away.
      if (now() !== before) throw new Problem(0, "", "The design changed meanwhile. Try again.");
      edit(() => made);
      done();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };

  useEffect(() => {
    pending.current = chosen && !busy && !trouble ? () => void apply() : null;
    return () => {
      pending.current = null;
    };
  });

  return (
    <form
      aria-label="Finished size"
      onSubmit={(event) => {
        event.preventDefault();
        void apply();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        {(["width", "height"] as const).map((side, index) => (
          <div key={side}>
            <div className="mb-0.5 text-soft text-xs">{side === "width" ? "Width" : "Height"}</div>
            <NumberField
              label={side === "width" ? "Finished width" : "Finished height"}
              value={wanted.side === side ? wanted.to : (size[index] ?? 0)}
              unit={unit}
              min={LEAST_MM}
              max={10_000}
              step={unit === "mm" ? 1 : 0.05}
              onChange={(to) => setChosen({ side, to })}
            />
          </div>
        ))}
      </div>
      <fieldset className="mt-3 flex flex-col gap-1.5">
        <legend className="sr-only">What becomes of distances</legend>
        {CHOICES.map(([value, text, what]) => (
          <label key={value} className="flex gap-2">
            <input
              type="radio"
              name="distances"
              checked={distances === value}
              onChange={() => setDistances(value)}
              className="mt-1 accent-halo"
            />
            <span>
              <span className="block">{text}</span>
              <span className="block text-soft text-xs">{what}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {trouble && (
        <p role="alert" className="mt-2 text-alarm text-xs">
          {trouble}
        </p>
      )}
      <Button look="main" type="submit" className="mt-3 w-full justify-center" disabled={busy}>
        {busy
          ? "Looking for the scale…"
          : `Make it ${length(wanted.to, unit)} ${wanted.side === "width" ? "wide" : "high"}`}
      </Button>
    </form>
  );
}
