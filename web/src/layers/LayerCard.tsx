// One layer: its name, its recipe as a sentence, its material and process, its measures.

import { Eye, EyeOff, GripVertical, TriangleAlert, X } from "lucide-react";
import { type KeyboardEvent, memo, useRef, useState } from "react";
import type { LayerReply, Material } from "../api/client";
import { typedInto } from "../bench/useUndoKeys";
import { setProcess } from "../document/carving";
import { madeOf, moveLayer, patchLayer } from "../document/layers";
import { readable } from "../document/readable";
import type { Layer, Process } from "../document/types";
import { area, length } from "../document/units";
import { RecipeSentence } from "../recipe/RecipeSentence";
import { select, selectLayer, useSelection } from "../state/selection";
import { edit, edits, endGesture, now, usePart, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { useDrag } from "../ui/drag";
import { enterRow, row } from "../ui/rows";
import { say } from "../ui/toast";
import { CardMenu } from "./CardMenu";
import { ColourButton } from "./ColourButton";
import { plainMaterial, useMaterials } from "./catalogue";

/** What can be done with a layer. */
const PROCESSES: [Process, string][] = [
  ["cut", "Cut"],
  ["through", "Cut through"],
  ["score", "Score"],
  ["draw", "Draw"],
  ["engrave", "Engrave"],
  ["print", "Print"],
  ["carve", "Carve"],
  ["guide", "Guide only"],
];

const OFFERED = PROCESSES.map(([value, text]) => ({ value, text }));

/** What is done along a layer's lines. */
const WORK: Record<Process, string> = {
  cut: "cut",
  through: "cut",
  score: "scored",
  draw: "drawn",
  engrave: "outline",
  print: "printed",
  carve: "outline",
  guide: "outline",
};

type Props = {
  layer: Layer;
  /** Whether it is worked on: the others are folded. */
  open: boolean;
  index: number;
  measures: LayerReply | null;
  findings: number;
  /** It is dragged by its handle to this height of the window, in pixels. */
  onDrag: (id: string, to: number) => void;
};

export const LayerCard = memo(function LayerCard(props: Props) {
  const { layer, open, index, measures, findings, onDrag } = props;
  const selected = useSelection((state) => state.layer === layer.id);
  const set = (patch: Partial<Layer>, gesture?: string) =>
    edit((design) => patchLayer(design, layer.id, patch), gesture && `${layer.id}.${gesture}`);
  const name = layer.name.trim() || layer.id;
  const pressed = useRef(false);
  const [dragged, setDragged] = useState(false);
  const drag = useDrag({
    begin: () => null,
    move: (_, event) => {
      setDragged(true);
      onDrag(layer.id, event.clientY);
    },
    end: () => {
      pressed.current = false;
      setDragged(false);
    },
  });
  const steer = (event: KeyboardEvent) => {
    const way = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    if (!way) return;
    event.preventDefault();
    const handle = event.currentTarget as HTMLElement;
    edit((design) => moveLayer(design, layer.id, index + way));
    // Moving the card in the page takes the focus off its handle.
    requestAnimationFrame(() => handle.focus());
  };

  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: keys open it by going into it
    <li
      data-testid={`layer-${layer.id}`}
      aria-label={`Layer ${name}`}
      // Not while it is pressed: what folds then would move the card away from under the pointer.
      onPointerDownCapture={() => {
        pressed.current = true;
      }}
      onPointerUp={() => {
        pressed.current = false;
      }}
      onFocusCapture={() => pressed.current || selectLayer(layer.id)}
      onClick={() => selectLayer(layer.id)}
      className={`rounded-xl border bg-sheet ${selected ? "border-halo shadow-[0_0_0_3px_color-mix(in_srgb,var(--glow)_35%,transparent)]" : "border-line"} ${dragged ? "opacity-50" : ""}`}
    >
      <div className="flex items-center gap-0.5 pt-0.5 pr-1">
        <button
          type="button"
          aria-label={`Move ${name}: arrow keys up and down`}
          title="Drag to another place in the stack, or use the arrow keys"
          className="inline-flex h-7 w-6 shrink-0 touch-none cursor-grab items-center justify-center text-soft hover:text-ink"
          onKeyDown={steer}
          {...drag}
        >
          <GripVertical size={15} />
        </button>
        <ColourButton layer={layer} name={name} />
        {open ? (
          <input
            {...row(layer.id)}
            {...typedInto(`${layer.id}.name`)}
            aria-label={`Name of the layer ${name}`}
            value={layer.name}
            maxLength={200}
            placeholder={layer.id}
            className="h-7 min-w-0 flex-1 rounded border border-transparent bg-transparent px-1 font-semibold hover:border-line focus:border-line"
            onChange={(event) => set({ name: readable(event.target.value) }, "name")}
            onBlur={endGesture}
          />
        ) : (
          <Folded layer={layer} name={name} />
        )}
        {findings > 0 && (
          <span
            title="See the strip at the bottom"
            className="flex items-center gap-0.5 px-1 text-alarm text-xs"
          >
            <TriangleAlert size={14} aria-hidden="true" /> {findings}
            <span className="sr-only"> to look at</span>
          </span>
        )}
        <IconButton
          label={layer.hidden ? `Show ${name}` : `Hide ${name}: it will not be handed over`}
          aria-pressed={layer.hidden}
          className="size-7"
          onClick={() => set({ hidden: !layer.hidden })}
        >
          {layer.hidden ? <EyeOff size={15} /> : <Eye size={15} />}
        </IconButton>
        {open && <CardMenu layer={layer.id} name={name} />}
      </div>
      <div className={layer.hidden ? "opacity-60" : ""}>
        <p
          className={
            open
              ? "px-2.5 pb-1 text-[13.5px] leading-[1.6rem]"
              : "folded px-3 pb-1 text-[13px] text-soft leading-[1.2rem]"
          }
        >
          <RecipeSentence
            recipe={layer.recipe}
            layer={layer.id}
            path={layer.id}
            notes={measures?.notes ?? []}
            open={open}
            edits={(recipe, gesture) =>
              edits((design) => patchLayer(design, layer.id, { recipe }), gesture && `${layer.id}.${gesture}`)
            }
          />
        </p>
        {open && (
          <>
            {layer.cut_with.length > 0 && <SharedCuts layer={layer} name={name} />}
            <Making layer={layer.id} name={name} material={layer.material} process={layer.process} />
            <Measures layer={layer} measures={measures} />
          </>
        )}
      </div>
    </li>
  );
}, unchanged);

/** The name of a layer that is not being worked on, and what is done with which material. */
const Folded = memo(function Folded({ layer, name }: { layer: Layer; name: string }) {
  const materials = useMaterials();
  const made = materials.find((one) => one.id === layer.material)?.name ?? layer.material;
  return (
    <button
      type="button"
      {...row(layer.id)}
      aria-label={`Open ${name}`}
      className="flex h-7 min-w-0 flex-1 items-baseline gap-2 pt-1 pl-1 text-left"
      onClick={(event) => event.detail === 0 && enterRow(layer.id)}
    >
      <span className="min-w-12 shrink-[3] truncate font-semibold">{name}</span>
      <span className="flex-1" />
      <span className="min-w-0 truncate text-soft text-xs">
        {made} · {PROCESSES.find(([process]) => process === layer.process)?.[1]}
      </span>
    </button>
  );
});

/** How much there is to cut. */
function Measures({ layer, measures }: { layer: Layer; measures: LayerReply | null }) {
  const unit = useUnit();
  const last = layer.recipe.steps.at(-1);
  const wanted = last?.op === "thicken" ? last.to : null;
  return (
    <p className="px-3 py-1 text-[11.5px] text-soft tracking-tight" data-testid={`measures-${layer.id}`}>
      {measures && measures.pieces + measures.marks > 0 ? (
        <>
          {measures.pieces > 0 && `${area(measures.area_mm2, unit)} · `}
          {length(measures.cut_length_mm, unit, unit === "mm" ? 0 : 1)} {WORK[layer.process]}
          {measures.pieces > 0 && ` · ${count(measures.pieces, "piece")}`}
          {measures.marks > 0 && ` · ${count(measures.marks, "mark")}`}
          {measures.holes > 0 && ` · ${count(measures.holes, "hole")}`}
          {measures.narrowest && <Thinnest narrowest={measures.narrowest} wanted={wanted} />}
        </>
      ) : (
        "nothing to cut"
      )}
    </p>
  );
}

type MakingProps = { layer: string; name: string; material: string; process: Process };

/** What it is made of, and what is done with it. */
/** Stands in the list of materials for one that is still to be described. */
const OWN = "a material of my own";

const option = ({ id, name, colour }: Material) => ({
  value: id,
  text: name,
  show: (
    <span className="flex items-center gap-2">
      <span className="size-3.5 shrink-0 rounded-sm border border-ink/30" style={{ background: colour }} />
      <span className="truncate">{name}</span>
    </span>
  ),
});

const Making = memo(function Making({ layer, name, material, process }: MakingProps) {
  const materials = useMaterials();
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-1.5 px-2">
      <Choice
        label={`Material of ${name}`}
        value={material}
        onChange={(id) => {
          if (id === OWN) return select({ limiting: layer });
          const chosen = materials.find((one) => one.id === id);
          if (chosen) edit((design) => madeOf(design, layer, plainMaterial(chosen), chosen.own));
        }}
        groups={[
          { options: materials.map(option) },
          { options: [{ value: OWN, text: "A material of my own…" }] },
        ]}
      />
      <Choice
        label={`Process of ${name}`}
        value={process}
        onChange={(next) => {
          edit((design) => setProcess(design, layer, next));
          if (next === "carve" && !now().carving)
            say("Carving needs a board: a layer that is cut, such as a plate under the words.");
        }}
        groups={[{ options: OFFERED }]}
      />
    </div>
  );
});

/** The layers whose cut serves this one's shared edges. */
function SharedCuts({ layer, name }: { layer: Layer; name: string }) {
  const layers = usePart((design) => design.layers);
  return layer.cut_with.map((id) => {
    const other = layers.find((one) => one.id === id);
    const called = other?.name.trim() || id;
    const left = layer.cut_with.filter((one) => one !== id);
    return (
      <p key={id} className="flex items-center px-3 pb-1 text-soft text-xs">
        <span className="min-w-0 flex-1">
          Edges shared with <b className="font-semibold">{called}</b> are cut once, with it.
        </span>
        <IconButton
          label={`Cut all edges of ${name}, those shared with ${called} too`}
          className="size-7"
          onClick={() => edit((design) => patchLayer(design, layer.id, { cut_with: left }))}
        >
          <X size={14} />
        </IconButton>
      </p>
    );
  });
}

/** Equal keys mean equal outlines, and so equal measures. */
function unchanged(before: Props, after: Props): boolean {
  return (
    before.layer === after.layer &&
    before.open === after.open &&
    before.index === after.index &&
    before.measures?.key === after.measures?.key &&
    before.measures?.cut_length_mm === after.measures?.cut_length_mm &&
    before.measures?.narrowest?.width_mm === after.measures?.narrowest?.width_mm &&
    before.findings === after.findings
  );
}

/** Widths are measured this closely, in mm. */
const MEASURED_WITHIN = 0.02;

/** The narrowest stroke; a click shows it close up. It says so where thickening could not bring it to what is wanted. */
function Thinnest(props: { narrowest: NonNullable<LayerReply["narrowest"]>; wanted: number | null }) {
  const { narrowest, wanted } = props;
  const unit = useUnit();
  const [x, y] = narrowest.at_mm;
  return (
    <>
      {" · "}
      <button
        type="button"
        title="Show the thinnest place"
        className="underline decoration-dotted underline-offset-2 hover:text-ink"
        onClick={() => select({ spot: { x, y, width: narrowest.width_mm } })}
      >
        thinnest {length(narrowest.width_mm, unit)}
      </button>
      {wanted !== null && narrowest.width_mm < wanted - MEASURED_WITHIN && (
        <span className="text-alarm">
          {" "}
          – the gaps beside it leave no room for {length(wanted, unit)}: space the letters out, or let gaps
          close
        </span>
      )}
    </>
  );
}

function count(number: number, noun: string): string {
  return `${number} ${noun}${number === 1 ? "" : "s"}`;
}
