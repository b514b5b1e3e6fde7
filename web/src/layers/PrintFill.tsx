// What a printed layer is filled with over its colour: nothing, one of our patterns, or a picture of one's own.

import { useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import { patchLayer } from "../document/layers";
import type { Layer } from "../document/types";
import { PICTURES } from "../drawings/bringIn";
import { EditNumber } from "../fields/EditNumber";
import { edit, endGesture, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

type Fill = NonNullable<Layer["fill"]>;
type Motif = Extract<Fill, { kind: "pattern" }>["motif"];

const MOTIFS: Record<Motif, string> = {
  stripes: "Stripes",
  dots: "Dots",
  checks: "Checks",
  gingham: "Gingham",
  diamonds: "Diamonds",
  stars: "Stars",
  waves: "Waves",
};

export function PrintFill({ layer, name }: { layer: Layer; name: string }) {
  const unit = useUnit();
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState("");
  const fill = layer.fill ?? null;
  const put = (next: Fill | null, gesture?: string) =>
    edit((design) => patchLayer(design, layer.id, { fill: next }), gesture);
  const number = (field: "size" | "width" | "turn") => (value: number) => ({
    change: (design: Parameters<typeof patchLayer>[0]) =>
      fill ? patchLayer(design, layer.id, { fill: { ...fill, [field]: value } as Fill }) : design,
    gesture: `${layer.id}.fill.${field}`,
  });
  const choose = (next: Motif | "none" | "picture") => {
    setTold("");
    if (next === "none") put(null);
    else if (next === "picture") input.current?.click();
    else if (fill?.kind === "pattern") put({ ...fill, motif: next });
    else put({ kind: "pattern", motif: next, colour: "#ffffff", size: 6, turn: 0 });
  };
  const bring = async (file: File) => {
    try {
      const brought = await api.bringIn(file);
      if (brought.kind !== "picture") {
        setTold(`${brought.name} is a drawing: bring it in as art, and print that.`);
        return;
      }
      const named = { file: brought.id, name: brought.name };
      put(
        fill?.kind === "picture"
          ? { ...fill, ...named }
          : { kind: "picture", ...named, fit: "cover", width: 40, turn: 0 },
      );
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setTold(error.sentence);
    }
  };
  return (
    <fieldset className="flex flex-col gap-2 border-line border-t pt-2">
      <legend className="sr-only">What it is printed with</legend>
      <input
        ref={input}
        type="file"
        hidden
        aria-label={`A picture to print ${name} with`}
        accept={PICTURES}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void bring(file);
          event.target.value = "";
        }}
      />
      <div className="flex items-center gap-2 text-sm">
        <Choice
          label={`What ${name} is printed with`}
          value={fill === null ? "none" : fill.kind === "picture" ? "picture" : fill.motif}
          className="flex-1"
          groups={[
            { options: [{ value: "none", text: "Plain colour" }] },
            {
              title: "Patterns",
              options: (Object.keys(MOTIFS) as Motif[]).map((value) => ({ value, text: MOTIFS[value] })),
            },
            { options: [{ value: "picture", text: "A picture…" }] },
          ]}
          onChange={choose}
        />
        {fill?.kind === "pattern" && (
          <input
            type="color"
            aria-label="Colour of the pattern"
            title="Colour of the pattern"
            value={fill.colour}
            className="size-8 cursor-pointer rounded-lg border border-line bg-paper p-0.5"
            onChange={({ target }) => put({ ...fill, colour: target.value }, `${layer.id}.fill.colour`)}
            onBlur={endGesture}
          />
        )}
      </div>
      {fill?.kind === "picture" && (
        <div className="flex items-center gap-2">
          <Choice
            label="How the picture lies"
            value={fill.fit}
            className="flex-1"
            groups={[
              {
                options: [
                  { value: "cover", text: "Once, over all of it" },
                  { value: "tile", text: "Again and again" },
                ],
              },
            ]}
            onChange={(fit) => put({ ...fill, fit })}
          />
          <Button title={`Instead of ${fill.name}`} onClick={() => input.current?.click()}>
            Another
          </Button>
        </div>
      )}
      {fill && (
        <p className="text-sm">
          {fill.kind === "pattern" && (
            <>
              Again after{" "}
              <EditNumber
                inline
                label="Again after"
                value={fill.size}
                unit={unit}
                min={0.5}
                max={500}
                edits={number("size")}
              />
              ,{" "}
            </>
          )}
          {fill.kind === "picture" && fill.fit === "tile" && (
            <>
              Each{" "}
              <EditNumber
                inline
                label="Width of the picture"
                value={fill.width}
                unit={unit}
                min={1}
                max={2000}
                edits={number("width")}
              />{" "}
              wide,{" "}
            </>
          )}
          turned by{" "}
          <EditNumber
            inline
            label="Turned by degrees"
            value={fill.turn}
            unit={null}
            min={-360}
            max={360}
            step={5}
            edits={number("turn")}
          />
          °
        </p>
      )}
      {told && (
        <p role="alert" className="text-alarm text-xs">
          {told}
        </p>
      )}
    </fieldset>
  );
}
