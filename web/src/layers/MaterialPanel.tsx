// What a layer is made of, and what that material allows. Changed values are saved as a material of one's own.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { api, type Material, Problem } from "../api/client";
import { freshId } from "../api/freshId";
import { madeOf } from "../document/layers";
import { readable } from "../document/readable";
import { length } from "../document/units";
import { LEAST_MM } from "../fields/limits";
import { select, useSelection } from "../state/selection";
import { edit, usePart, useUnit } from "../state/timeline";
import { AreaField } from "../ui/AreaField";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { Panel, PanelTitle } from "../ui/Panel";
import { say } from "../ui/toast";
import { plainMaterial, useMaterials } from "./catalogue";

export function MaterialPanel() {
  const materials = useMaterials();
  const limiting = useSelection((state) => state.limiting);
  const layer = usePart((design) => design.layers.find((one) => one.id === limiting));
  const listed = materials.find((one) => one.id === layer?.material);
  // What is in no list counts as something all the same.
  const { data: unlisted } = useQuery({
    queryKey: ["material", layer?.material],
    queryFn: () => api.material(layer?.material ?? ""),
    enabled: layer !== undefined && !listed,
  });
  const material = listed ?? unlisted;
  const close = () => select({ limiting: null });
  return (
    <Dialog.Root open={layer !== undefined} onOpenChange={(open) => open || close()}>
      {layer && material && (
        <Panel className="max-h-[90vh] w-[30rem] max-w-[92vw]" scrolls>
          <PanelTitle title={`What ${layer.name.trim() || layer.id} is made of`} />
          <Fields
            key={material.id}
            layer={layer.id}
            colour={layer.colour}
            from={material}
            listed={!!listed}
            onDone={close}
          />
        </Panel>
      )}
    </Dialog.Root>
  );
}

type FieldsProps = {
  layer: string;
  colour: string | null;
  from: Material;
  listed: boolean;
  onDone: () => void;
};

function Fields({ layer, colour, from, listed, onDone }: FieldsProps) {
  // What comes with the app stays as it is.
  const shipped = listed && !from.own;
  const unit = useUnit();
  const queries = useQueryClient();
  const [made, setMade] = useState<Material>({ ...from, name: shipped ? `${from.name}, mine` : from.name });
  const [trouble, setTrouble] = useState("");
  const { limits } = made;
  const set = (patch: Partial<Material["limits"]>) => setMade({ ...made, limits: { ...limits, ...patch } });

  /** Whether the server did it; its refusal is shown. */
  const granted = (answer: Promise<unknown>) =>
    answer.then(
      () => true,
      (error: unknown) => {
        if (!(error instanceof Problem)) throw error;
        setTrouble(error.sentence);
        return false;
      },
    );

  const save = async () => {
    const own = plainMaterial({ ...made, name: made.name.trim() });
    const material = !shipped ? own : { ...own, id: `own-${freshId().slice(0, 8)}` };
    if (!(await granted(api.saveMaterial(material)))) return;
    // A layer's own colour stays, unless the material was given another here.
    const kept = made.colour === from.colour ? colour : null;
    edit((design) => madeOf(design, layer, material, true, kept));
    void queries.invalidateQueries({ queryKey: ["materials"] });
    onDone();
  };
  const remove = async () => {
    if (!(await granted(api.removeMaterial(made.id)))) return;
    void queries.invalidateQueries({ queryKey: ["materials"] });
    say(`“${made.name}” is out of your list. Designs made of it keep it.`, {
      label: "Put it back",
      run: () =>
        void api
          .saveMaterial(plainMaterial(from))
          .then(() => queries.invalidateQueries({ queryKey: ["materials"] })),
    });
    onDone();
  };

  const usual = limits.usual_kerf ?? 0;
  const size = (label: string, value: number, change: (value: number) => void, max = 100) => (
    <NumberField label={label} value={value} unit={unit} min={LEAST_MM} max={max} onChange={change} />
  );
  const distance = (label: string, value: number | undefined, change: (value: number) => void) => (
    <NumberField label={label} value={value ?? 0} unit={unit} min={0} max={100} onChange={change} />
  );
  return (
    <form
      className="mt-4 flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Line text="Name">
        <input
          aria-label="Name of the material"
          required
          maxLength={80}
          value={made.name}
          className="h-8 w-full rounded-lg border border-line bg-paper px-2"
          onChange={(event) => setMade({ ...made, name: readable(event.target.value) })}
        />
      </Line>
      <Line text="Thickness and colour">
        <span className="flex gap-2">
          {size("Thickness", made.thickness, (thickness) => setMade({ ...made, thickness }))}
          <input
            type="color"
            aria-label="Colour"
            value={made.colour}
            className="h-8 w-14 rounded-lg border border-line bg-paper"
            onChange={(event) => setMade({ ...made, colour: event.target.value })}
          />
        </span>
      </Line>
      <Line text="Thinnest stroke that holds">
        {size("Thinnest stroke", limits.least_width, (least_width) => set({ least_width }))}
      </Line>
      <Line text="Narrowest gap that stays open">
        {size("Narrowest gap", limits.least_gap, (least_gap) => set({ least_gap }))}
      </Line>
      <Line text={`Smallest piece, in ${unit}²`}>
        <AreaField
          label="Smallest piece"
          value={limits.least_area}
          unit={unit}
          max={10_000}
          onChange={(least_area) => set({ least_area })}
        />
      </Line>
      <Line text="Distance from the edge below">
        {distance("Margin", limits.margin, (margin) => set({ margin }))}
      </Line>
      <Line text="Bleed of prints over the cut">
        {distance("Bleed", limits.bleed, (bleed) => set({ bleed }))}
      </Line>
      <Line text="Taken away by the cut (kerf)">
        <span className="flex items-center gap-2">
          {distance("Kerf", limits.kerf, (kerf) => set({ kerf }))}
          {usual > 0 && limits.kerf !== usual && (
            <Button
              look="quiet"
              title="Common practice: a test cut says yours"
              onClick={() => set({ kerf: usual })}
            >
              Laser: {length(usual, unit)}
            </Button>
          )}
        </span>
      </Line>
      <Line text={`Cutting speed, ${unit} a second`}>
        <NumberField
          label="Cutting speed"
          value={limits.speed ?? 20}
          unit={unit}
          min={0.1}
          max={2000}
          onChange={(speed) => set({ speed })}
        />
      </Line>
      <Line text="Sheet, width and height">
        <span className="flex gap-2">
          {size("Width of the sheet", limits.sheet_width, (sheet_width) => set({ sheet_width }), 10_000)}
          {size("Height of the sheet", limits.sheet_height, (sheet_height) => set({ sheet_height }), 10_000)}
        </span>
      </Line>
      <Line text="Price of a sheet">
        <NumberField
          label="Price of a sheet"
          value={made.price ?? 0}
          unit={null}
          decimals={2}
          min={0}
          max={1_000_000}
          onChange={(price) => setMade({ ...made, price })}
        />
      </Line>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={limits.weeded ?? false}
          onChange={(event) => set({ weeded: event.target.checked })}
        />
        Weeded from a carrier: pieces keep their places
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={limits.mirrored ?? false}
          onChange={(event) => set({ mirrored: event.target.checked })}
        />
        Cut from behind, as for ironing on: files leave mirrored
      </label>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={limits.tool != null}
          onChange={(event) => set({ tool: event.target.checked ? 3 : null })}
        />
        Milled with a tool
        {limits.tool != null && size("Diameter of the tool", limits.tool, (tool) => set({ tool }))}
      </label>
      {!listed && (
        <p className="text-soft text-xs">
          “{from.name}” is in no list: these are the values it counts with for now. Set yours.
        </p>
      )}
      {shipped && (
        <p className="text-soft text-xs">
          The values that come with the app are common practice. Yours are saved as a material of your own.
        </p>
      )}
      {trouble && (
        <p role="alert" className="text-alarm">
          {trouble}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button look="main" type="submit">
          {shipped ? "Save as my own" : "Save"}
        </Button>
        <span className="flex-1" />
        {from.own && <Button onClick={() => void remove()}>Take out of my list</Button>}
      </div>
    </form>
  );
}

function Line({ text, children }: { text: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[12rem_minmax(0,1fr)] items-center gap-3">
      <span className="text-soft">{text}</span>
      {children}
    </div>
  );
}
