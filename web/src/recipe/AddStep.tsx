// The list of steps: the eight that most people use first, the rest behind one word; typing finds any of them.

import { ChevronsUpDown, ClipboardPaste, Plus } from "lucide-react";
import { Fragment, type KeyboardEvent, useState } from "react";
import { operandFor } from "../document/operand";
import { newStep, stepHere } from "../document/recipes";
import type { Recipe, Step, StepOp } from "../document/types";
import { useMaterials } from "../layers/catalogue";
import { builtNow } from "../state/building";
import { commit, type Edit, now, usePart } from "../state/timeline";
import { Menu, MenuItem, MenuLabel } from "../ui/Menu";
import { copiedStep } from "./copiedStep";
import { Drawing, PHRASES, STEP_OPS } from "./phrases";

const GROUPS = ["Borders", "Holes", "Shapes and shadows", "With other shapes", "Finishing"] as const;

/** What stickers, keychains, toppers and shadow titles begin with. */
const FIRST: StepOp[] = [
  "offset",
  "fill_holes",
  "outline",
  "close_gaps",
  "thicken",
  "drop_shadow",
  "subtract",
  "tab",
];

type Props = {
  recipe: Recipe;
  layer: string;
  /** The edit that puts a changed recipe in its place. */
  edits: (recipe: Recipe, gesture?: string) => Edit;
  /** Within another recipe, whose own button stands beside it: this one shows where it is meant. */
  nested: boolean;
};

export function AddStep({ recipe, layer, edits, nested }: Props) {
  const [all, setAll] = useState(false);
  const [typed, setTyped] = useState("");
  const [copied, setCopied] = useState<Step | null>(null);
  const material = usePart((design) => design.layers.find((one) => one.id === layer)?.material);
  const least = useMaterials().find((one) => one.id === material)?.limits.least_width;
  const paste = (step: Step) => {
    const operand = operandFor(now(), layer, recipe, step.op, builtNow().built?.reply.art ?? []);
    commit(edits({ ...recipe, steps: [...recipe.steps, stepHere(now(), layer, step, operand)] }));
  };
  const add = (op: StepOp) => {
    const { reply } = builtNow().built ?? {};
    const operand = operandFor(now(), layer, recipe, op, reply?.art ?? []);
    const step: Step = newStep(op, operand);
    // As wide as its material needs strokes to be.
    if (step.op === "thicken" && least !== undefined) step.to = least;
    commit(edits({ ...recipe, steps: [...recipe.steps, step] }));
  };
  const type = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const next = event.key === "Backspace" ? typed.slice(0, -1) : typed + event.key;
    // A space chooses what is pointed at, unless a word has been begun.
    const meant =
      event.key === "Backspace" || (event.key.length === 1 && (event.key !== " " || typed !== ""));
    if (!meant) return;
    event.preventDefault();
    event.stopPropagation();
    setTyped(next);
  };
  const found = STEP_OPS.filter((op) => PHRASES[op].group && matches(op, typed));
  const items = (ops: StepOp[]) =>
    ops.map((op) => (
      <MenuItem key={op} onSelect={() => add(op)}>
        <Drawing op={op} />
        <span>
          <span className="block font-semibold">{PHRASES[op].title}</span>
          <span className="block text-soft text-xs">{PHRASES[op].does}</span>
        </span>
      </MenuItem>
    ));
  return (
    <Menu
      side="right"
      onOpen={() => {
        setAll(false);
        setTyped("");
        setCopied(copiedStep());
      }}
      onType={type}
      trigger={
        <button
          type="button"
          aria-label="Add a step"
          title="Add a step"
          className={`size-5 items-center justify-center rounded-full border border-line text-soft hover:border-halo hover:text-halo ${nested ? "-top-3 -right-3 absolute z-10 hidden bg-sheet group-focus-within/operand:inline-flex group-hover/operand:inline-flex data-[state=open]:inline-flex" : "inline-flex translate-y-1"}`}
        >
          <Plus size={13} />
        </button>
      }
    >
      <p role="status" className="px-2.5 pt-1 text-soft text-xs">
        {typed ? (
          <>
            With “<b className="text-ink">{typed}</b>”{found.length === 0 && ": none"}
          </>
        ) : (
          "Type to find one"
        )}
      </p>
      {typed ? (
        <div className="grid w-[36rem] max-w-[90vw] grid-cols-2 max-sm:grid-cols-1">{items(found)}</div>
      ) : all ? (
        <div className="grid w-[54rem] max-w-[90vw] grid-cols-2 lg:grid-cols-3">
          {GROUPS.map((group) => (
            <Fragment key={group}>
              <div className="col-span-full">
                <MenuLabel>{group}</MenuLabel>
              </div>
              {items(STEP_OPS.filter((op) => PHRASES[op].group === group))}
            </Fragment>
          ))}
        </div>
      ) : (
        <div className="grid w-[36rem] max-w-[90vw] grid-cols-2 max-sm:grid-cols-1">
          {items(FIRST)}
          {copied && (
            <MenuItem onSelect={() => paste(copied)}>
              <ClipboardPaste size={15} className="mx-1 text-soft" /> Paste “{PHRASES[copied.op].title}”
            </MenuItem>
          )}
          <MenuItem stays onSelect={() => setAll(true)}>
            <ChevronsUpDown size={15} className="mx-1 text-soft" /> More…
          </MenuItem>
        </div>
      )}
    </Menu>
  );
}

/** Whether each word that was typed begins one of the step's own. */
function matches(op: StepOp, typed: string): boolean {
  const own = `${PHRASES[op].title} ${PHRASES[op].does}`.toLowerCase().split(/\W+/);
  const wanted = typed.toLowerCase().split(/\W+/).filter(Boolean);
  return wanted.every((word) => own.some((one) => one.startsWith(word)));
}
