// Tools, speeds, tabs, and how floors are cleared: what is set once for a shop rather than for each sign.

import { useQueryClient } from "@tanstack/react-query";
import { SlidersHorizontal } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { api } from "../api/client";
import { CARVING } from "../api/facts";
import { patchCarving } from "../document/carving";
import { readable } from "../document/readable";
import type { Carving, Tool } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, usePart, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { attempt, Failure } from "../ui/Failure";
import { Panel, PanelTitle } from "../ui/Panel";
import { say } from "../ui/toast";
import { useTools } from "./ToolChoice";

export function ToolsButton() {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <IconButton label="Tools, speeds and tabs" className="size-7">
          <SlidersHorizontal size={15} />
        </IconButton>
      </Dialog.Trigger>
      <Panel className="max-h-[90vh] w-[38rem] max-w-[94vw]" scrolls>
        <PanelTitle title="Tools, speeds and tabs" />
        <Settings />
      </Panel>
    </Dialog.Root>
  );
}

const WAYS = [
  { value: "climb" as const, text: "climb: the wall on the right" },
  { value: "conventional" as const, text: "conventional: the wall on the left" },
];

function Settings() {
  const carving = usePart((design) => design.carving);
  const unit = useUnit();
  if (!carving) return null;
  const set = (change: Partial<Carving>) => edit((now) => patchCarving(now, change));
  const number = (
    field: "ridge" | "line_depth" | "pocket_depth" | "safe" | "step",
    label: string,
    plain = false,
  ) => {
    const range = CARVING.ranges[field];
    return (
      <EditNumber
        inline
        label={label}
        value={carving[field]}
        unit={plain ? null : unit}
        min={range?.min ?? 0.01}
        max={range?.max ?? 100}
        {...(plain && { step: 0.05 })}
        edits={(value) => edits((now) => patchCarving(now, { [field]: value }), `carving.${field}`)}
      />
    );
  };
  const tab = (field: "count" | "width" | "height", label: string) => (
    <EditNumber
      inline
      label={label}
      value={carving.tabs[field]}
      unit={field === "count" ? null : unit}
      {...(field === "count" && { step: 1, decimals: 0 })}
      min={field === "count" ? 0 : 0.01}
      max={100}
      edits={(value) =>
        edits(
          (now) =>
            patchCarving(now, {
              tabs: { ...carving.tabs, [field]: field === "count" ? Math.round(value) : value },
            }),
          `carving.tabs.${field}`,
        )
      }
    />
  );
  return (
    <div className="mt-3 flex flex-col gap-3">
      <Failure place="tools" />
      <ToolForm title="V-bit" tool={carving.bit} change={(bit) => ({ bit: bit as Carving["bit"] })} />
      {carving.mill && (
        <ToolForm
          title="End mill"
          tool={carving.mill}
          change={(mill) => ({ mill: mill as Carving["mill"] })}
        />
      )}
      <Part title="Floors">
        The mill goes {number("step", "Share of the mill's width from pass to pass", true)} of its width
        further with each pass, round pockets{" "}
        <Choice
          inline
          label="Which way the mill goes round"
          value={carving.way}
          groups={[{ options: WAYS }]}
          onChange={(way) => set({ way })}
        />
        . Where the V-bit clears the rest, ridges are {number("ridge", "Height of ridges")} high at most.
      </Part>
      <Part title="Lines and pockets">
        Layers that are scored are engraved along their lines, {number("line_depth", "Depth of lines")} deep;
        layers that are engraved are pockets, {number("pocket_depth", "Depth of pockets")} deep.
      </Part>
      <Part title="Cutting out">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={carving.cut_out}
            onChange={({ target }) => set({ cut_out: target.checked })}
          />
          The board is cut out of its stock in the end
        </label>
        {carving.cut_out && (
          <>
            held by {tab("count", "Tabs")} tabs, {tab("width", "Width of tabs")} wide and{" "}
            {tab("height", "Height of tabs")} high.
          </>
        )}
      </Part>
      <Part title="Moves">Tools go from place to place {number("safe", "Safe height")} over the board.</Part>
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h3 className="font-semibold">{title}</h3>
      <div className="leading-8">{children}</div>
    </section>
  );
}

type FormProps = { title: string; tool: Tool; change: (tool: Tool) => Partial<Carving> };

/** A tool of this design; saved under its name it is there for every other. */
function ToolForm({ title, tool, change }: FormProps) {
  const unit = useUnit();
  const queries = useQueryClient();
  const known = useTools().find((one) => one.tool.name === tool.name);
  const set = (patch: Partial<Tool>, gesture: string) =>
    edits((now) => patchCarving(now, change({ ...tool, ...patch } as Tool)), `carving.${title}.${gesture}`);
  const number = (field: string, label: string, kind: "length" | "plain", max: number, min = 0.01) => (
    <EditNumber
      inline
      label={`${title}: ${label}`}
      value={(tool as unknown as Record<string, number>)[field] ?? 0}
      unit={kind === "length" ? unit : null}
      {...(kind === "plain" && { step: field === "angle" ? 1 : 50 })}
      min={min}
      max={max}
      edits={(value) => set({ [field]: value }, field)}
    />
  );
  const keep = (call: () => Promise<unknown>, sentence: string) =>
    attempt("tools", async () => {
      await call();
      void queries.invalidateQueries({ queryKey: ["tools"] });
      say(sentence);
    });
  return (
    <Part title={title}>
      <span className="flex items-center gap-2">
        <input
          aria-label={`Name of the ${title}`}
          value={tool.name}
          maxLength={80}
          className="h-8 min-w-0 flex-1 rounded-lg border border-line bg-paper px-2"
          onChange={({ target }) => {
            const name = readable(target.value);
            if (name.trim())
              edit((now) => patchCarving(now, change({ ...tool, name })), `carving.${title}.name`);
          }}
        />
        <Button
          disabled={known !== undefined && !known.own}
          title={known && !known.own ? "One that comes with the app is called so: give it another name" : ""}
          onClick={() => void keep(() => api.saveTool(tool), `“${tool.name}” is among your tools.`)}
        >
          Save as my own
        </Button>
        {known?.own && (
          <Button
            look="quiet"
            onClick={() =>
              void keep(
                () => api.removeTool(tool.name),
                `“${tool.name}” is out of your list. Designs that use it keep it.`,
              )
            }
          >
            Forget it
          </Button>
        )}
      </span>
      {tool.kind === "v_bit" ? (
        <>
          Point of {number("angle", "angle in degrees", "plain", 170, 5)}°, tip{" "}
          {number("tip", "width of its tip", "length", 20, 0)} wide, cuts{" "}
          {number("diameter", "greatest width", "length", 100)} wide at most;{" "}
        </>
      ) : (
        <>{number("diameter", "diameter", "length", 100)} wide; </>
      )}
      {number("down", "depth of one pass", "length", 100)} deep in one pass, at{" "}
      {number("feed", "feed in mm a minute", "plain", 50_000, 1)} mm a minute, straight down{" "}
      {number("plunge", "plunge in mm a minute", "plain", 50_000, 1)},{" "}
      {number("turns", "turns a minute", "plain", 100_000, 1)} turns a minute.
    </Part>
  );
}
