// A recipe read as a sentence: its sources, then one phrase per step, every word of it live.

import { ArrowLeft, ArrowRight, ClipboardCopy, Copy, Eye, EyeOff, Trash2 } from "lucide-react";
import type { NoteReply } from "../api/client";
import { sourceName } from "../document/names";
import { wouldCircle } from "../document/recipes";
import type { Recipe, Step, StepOp, Steps } from "../document/types";
import { select } from "../state/selection";
import { commit, type Edit, useDesign } from "../state/timeline";
import { Menu, MenuCheck, MenuItem, MenuLabel, MenuLine } from "../ui/Menu";
import { AddStep } from "./AddStep";
import { copyStep } from "./copiedStep";
import { PHRASES } from "./phrases";
import type { PhraseProps } from "./phrases/parts";

/** The edit that puts a changed recipe in its place. */
type Edits = (recipe: Recipe, gesture?: string) => Edit;

type Props = {
  recipe: Recipe;
  /** The layer the recipe belongs to. */
  layer: string;
  /** Names the place of this recipe, to keep gestures apart. */
  path: string;
  edits: Edits;
  notes?: NoteReply[];
  /** Whether this is the operand of a step. */
  nested?: boolean;
  /** Whether steps can be added here. */
  open?: boolean;
};

export function RecipeSentence({
  recipe,
  layer,
  path,
  edits,
  notes = [],
  nested = false,
  open = true,
}: Props) {
  return (
    <>
      <Sources recipe={recipe} layer={layer} edits={edits} />
      {recipe.steps.map((step, index) => {
        const light = () => nested || select({ stage: { layer, step: index } });
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: a pointer over a phrase only lights its outline
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity but their place
            key={`${index}-${step.op}`}
            data-step={step.op}
            className={`rounded hover:bg-glow/10 ${step.off ? "text-soft line-through opacity-60" : ""}`}
            onPointerEnter={light}
            onPointerLeave={() => nested || select({ stage: null })}
            onFocus={light}
            onBlur={() => nested || select({ stage: null })}
          >
            {parted(recipe.steps, index)}
            <StepSentence
              op={step.op}
              step={step}
              index={index}
              recipe={recipe}
              layer={layer}
              path={path}
              edits={edits}
              note={notes.find((note) => note.step === index) ?? null}
              nested={nested}
            />
          </span>
        );
      })}{" "}
      {open && <AddStep recipe={recipe} layer={layer} edits={edits} nested={nested} />}
    </>
  );
}

type StepProps<Op extends StepOp> = Required<Omit<Props, "notes" | "open">> & {
  op: Op;
  step: Steps[Op];
  index: number;
  note: NoteReply | null;
};

/** One step's phrase, what it takes, and what stands behind that. */
function StepSentence<Op extends StepOp>(props: StepProps<Op>) {
  const { op, step, index, recipe, layer, path, edits, note, nested } = props;
  const { Phrase, After } = PHRASES[op];
  const set = (changed: Step, gesture?: string) =>
    edits({ ...recipe, steps: recipe.steps.with(index, changed) }, gesture && `${path}.${index}.${gesture}`);
  const phrase: PhraseProps<Op> = {
    step,
    verb: (word, after = "") => (
      <Verb word={word} after={after} recipe={recipe} index={index} edits={edits} />
    ),
    note,
    at: nested ? null : { layer, step: index },
    edits: set,
  };
  // Read off the recipe and not the step, whose kind is open here.
  const whole = recipe.steps[index];
  return (
    <>
      <Phrase {...phrase} />
      {whole && "operand" in whole && (
        <>
          {" "}
          <span className="group/operand relative rounded-md bg-bench/70 px-1 py-0.5">
            <RecipeSentence
              recipe={whole.operand}
              layer={layer}
              path={`${path}.${index}`}
              nested
              edits={(operand, gesture) =>
                edits({ ...recipe, steps: recipe.steps.with(index, { ...whole, operand }) }, gesture)
              }
            />
          </span>
        </>
      )}
      {After && <After {...phrase} />}
    </>
  );
}

/** What parts a step from what stands before it: nothing more after a step that ends in a block of its own. */
function parted(steps: Step[], index: number): string {
  const before = steps[index - 1];
  if (!before) return steps[index] && "operand" in steps[index] ? ", " : " ";
  return PHRASES[before.op].After ? " " : ", ";
}

/** What the region is made from: a menu to choose art and other layers. */
function Sources({ recipe, layer, edits }: { recipe: Recipe; layer: string; edits: Edits }) {
  const design = useDesign();
  const names = recipe.from.map((id) => sourceName(design, id));
  const toggle = (id: string) =>
    commit(
      edits({
        ...recipe,
        from: recipe.from.includes(id) ? recipe.from.filter((name) => name !== id) : [...recipe.from, id],
      }),
    );
  const others = design.layers.filter((one) => one.id !== layer);
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label={`Made from ${names.join(" and ") || "nothing"}`}
          className={`word-field ${names.length ? "" : "text-alarm"}`}
        >
          {names.length ? names.join(" + ") : "choose words or a shape"}
        </button>
      }
    >
      <MenuLabel>Words and shapes</MenuLabel>
      {design.art.map((art) => (
        <MenuCheck key={art.id} on={recipe.from.includes(art.id)} onSelect={() => toggle(art.id)}>
          {sourceName(design, art.id)}
        </MenuCheck>
      ))}
      {others.length > 0 && <MenuLabel>Other layers</MenuLabel>}
      {others.map((one) => {
        const circle = wouldCircle(design, layer, one.id);
        const name = sourceName(design, one.id);
        return (
          <MenuCheck
            key={one.id}
            on={recipe.from.includes(one.id)}
            disabled={circle}
            onSelect={() => toggle(one.id)}
          >
            {circle ? `${name} – is itself made from ${sourceName(design, layer)}` : name}
          </MenuCheck>
        );
      })}
    </Menu>
  );
}

/** The verb of a step; its menu moves and removes the step. */
function Verb(props: { word: string; after: string; recipe: Recipe; index: number; edits: Edits }) {
  const { word, after, recipe, index, edits } = props;
  const { steps } = recipe;
  const step = steps[index];
  if (!step) return null;
  const set = (next: Step[]) => commit(edits({ ...recipe, steps: next }));
  const swap = (other: number) => set(steps.toSpliced(index, 1).toSpliced(other, 0, step));
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label={`${word}: move, copy, switch off or remove this step`}
          className="-mx-0.5 rounded px-0.5 decoration-dotted underline-offset-4 hover:bg-bench hover:underline"
        >
          {word}
          {after}
        </button>
      }
    >
      <MenuItem disabled={index === 0} onSelect={() => swap(index - 1)}>
        <ArrowLeft size={15} /> Earlier
      </MenuItem>
      <MenuItem disabled={index === steps.length - 1} onSelect={() => swap(index + 1)}>
        <ArrowRight size={15} /> Later
      </MenuItem>
      <MenuItem onSelect={() => set(steps.with(index, { ...step, off: !step.off }))}>
        {step.off ? <Eye size={15} /> : <EyeOff size={15} />} {step.off ? "Switch on again" : "Switch off"}
      </MenuItem>
      <MenuItem onSelect={() => set(steps.toSpliced(index, 0, structuredClone(step)))}>
        <Copy size={15} /> Duplicate
      </MenuItem>
      <MenuItem onSelect={() => copyStep(step)}>
        <ClipboardCopy size={15} /> Copy, for any layer
      </MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => set(steps.toSpliced(index, 1))}>
        <Trash2 size={15} /> Remove this step
      </MenuItem>
    </Menu>
  );
}
