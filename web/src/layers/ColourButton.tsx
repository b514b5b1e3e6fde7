// The colour of a layer: a swatch that opens a small palette. The material stays what it is.

import { Popover } from "radix-ui";
import { memo, useState } from "react";
import { colourLayers } from "../document/layers";
import type { Layer } from "../document/types";
import { edit, endGesture, usePart } from "../state/timeline";
import { Button } from "../ui/Button";
import { looksLike, useMaterials } from "./catalogue";
import { PALETTE, recentColours, rememberColour, toColour } from "./colours";
import { PrintFill } from "./PrintFill";

type Props = { layer: Layer; name: string };

export const ColourButton = memo(function ColourButton({ layer, name }: Props) {
  const { colour } = looksLike(useMaterials(), layer);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`Colour of ${name}`}
          title={`Colour of ${name}: ${colour}`}
          className="size-6 shrink-0 rounded-md border border-ink/30 hover:border-ink"
          style={{ background: colour }}
        />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="start"
          sideOffset={8}
          collisionPadding={8}
          aria-label={`Colour of ${name}`}
          className="z-50 w-60 rounded-xl border border-line bg-sheet p-3 shadow-black/15 shadow-xl"
        >
          <Palette layer={layer} now={colour} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
});

function Palette({ layer, now }: { layer: Layer; now: string }) {
  const layers = usePart((design) => design.layers);
  const [along, setAlong] = useState<string[]>([]);
  const [code, setCode] = useState(now);
  const [recent, setRecent] = useState(recentColours);
  const others = layers.filter((one) => one.id !== layer.id);
  const ids = [layer.id, ...along];
  const colour = (next: string | null, gesture?: string) => {
    edit((design) => colourLayers(design, ids, next), gesture);
    if (next) setCode(next);
  };
  const byCode = (text: string) => {
    setCode(text);
    const next = toColour(text);
    if (next) edit((design) => colourLayers(design, ids, next), `${layer.id}.colour`);
  };
  const settle = () => {
    const next = toColour(code);
    if (next) {
      rememberColour(next);
      setRecent(recentColours());
    }
    endGesture();
  };
  return (
    <div className="flex flex-col gap-2.5">
      <div className="grid grid-cols-6 gap-1.5">
        {PALETTE.map(([value, title]) => (
          <Chip key={value} value={value} title={title} on={now === value} choose={colour} />
        ))}
      </div>
      {recent.length > 0 && (
        <div className="grid grid-cols-6 gap-1.5 border-line border-t pt-2">
          {recent.map((value) => (
            <Chip key={value} value={value} title={value} on={now === value} choose={colour} />
          ))}
        </div>
      )}
      <div className="flex items-center gap-1.5">
        <input
          type="color"
          aria-label="Any colour"
          title="Any colour"
          value={now}
          className="size-8 cursor-pointer rounded-lg border border-line bg-paper p-0.5"
          onChange={(event) => byCode(event.target.value)}
          onBlur={settle}
        />
        <input
          aria-label="Colour by its code"
          value={code}
          maxLength={7}
          spellCheck={false}
          aria-invalid={toColour(code) === null}
          className="h-8 w-0 flex-1 rounded-lg border border-line bg-paper px-2 aria-invalid:border-alarm"
          onChange={(event) => byCode(event.target.value)}
          onBlur={settle}
        />
        {layer.colour && <Button onClick={() => colour(null)}>Usual</Button>}
      </div>
      {layer.process === "print" && <PrintFill layer={layer} name={layer.name.trim() || layer.id} />}
      {others.length > 0 && (
        <fieldset className="border-line border-t pt-2">
          <legend className="sr-only">The same for other layers</legend>
          <span className="text-soft text-xs">The same for</span>
          {others.map((one) => (
            <label key={one.id} className="flex items-center gap-2 text-sm">
              <input
                type="checkbox"
                checked={along.includes(one.id)}
                onChange={({ target }) => {
                  setAlong(target.checked ? [...along, one.id] : along.filter((id) => id !== one.id));
                  if (target.checked) edit((design) => colourLayers(design, [one.id], layer.colour));
                }}
              />
              <span className="truncate">{one.name.trim() || one.id}</span>
            </label>
          ))}
        </fieldset>
      )}
    </div>
  );
}

type ChipProps = { value: string; title: string; on: boolean; choose: (colour: string) => void };

function Chip({ value, title, on, choose }: ChipProps) {
  return (
    <button
      type="button"
      aria-label={title}
      aria-pressed={on}
      title={title}
      className={`aspect-square rounded-md border border-ink/25 hover:border-ink ${on ? "ring-2 ring-halo ring-offset-1 ring-offset-sheet" : ""}`}
      style={{ background: value }}
      onClick={() => choose(value)}
    />
  );
}
