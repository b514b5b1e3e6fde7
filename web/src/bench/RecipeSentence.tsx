// A recipe read as a sentence: its sources, then one phrase per step, every word of it live.

import { ArrowLeft, ArrowRight, Eye, EyeOff, Plus, Trash2 } from "lucide-react";
import { Fragment } from "react";
import type { NoteReply } from "../api/client";
import { newStep, sourceName, wouldCircle } from "../document/edit";
import type { Recipe, Step } from "../document/types";
import { Menu, MenuCheck, MenuItem, MenuLabel, MenuLine } from "../ui/Menu";
import { useBench, useDesign } from "./history";
import { Drawing, PHRASES, STEP_OPS, type StepPhrase } from "./phrases";

type Change = (recipe: Recipe, gesture?: string) => void;

type Props = {
  recipe: Recipe;
  /** The layer the recipe belongs to. */
  layer: string;
  /** Names the place of this recipe, to keep gestures apart. */
  path: string;
  onChange: Change;
  notes?: NoteReply[];
  /** Whether this is the operand of a step. */
  nested?: boolean;
};

export function RecipeSentence({ recipe, layer, path, onChange, notes = [], nested = false }: Props) {
  const setStep = (index: number, step: Step, gesture?: string) =>
    onChange({ ...recipe, steps: recipe.steps.with(index, step) }, gesture && `${path}.${index}.${gesture}`);
  return (
    <>
      <Sources recipe={recipe} layer={layer} onChange={onChange} />
      {recipe.steps.map((step, index) => {
        const { Phrase, After } = PHRASES[step.op] as StepPhrase<Step["op"]>;
        const props = {
          step: step as never,
          verb: (word: string, after = "") => (
            <Verb word={word} after={after} recipe={recipe} index={index} onChange={onChange} />
          ),
          note: notes.find((note) => note.step === index) ?? null,
          at: nested ? null : { layer, step: index },
          onChange: (changed: Step, gesture?: string) => setStep(index, changed, gesture),
        };
        const light = () => nested || useBench.setState({ stage: { layer, step: index } });
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: a pointer over a phrase only lights its outline
          <span
            // biome-ignore lint/suspicious/noArrayIndexKey: steps have no identity but their place
            key={`${index}-${step.op}`}
            data-step={step.op}
            className={`rounded hover:bg-glow/10 ${step.off ? "text-soft line-through opacity-60" : ""}`}
            onPointerEnter={light}
            onPointerLeave={() => nested || useBench.setState({ stage: null })}
            onFocus={light}
            onBlur={() => nested || useBench.setState({ stage: null })}
          >
            {parted(recipe.steps, index)}
            <Phrase {...props} />
            {"operand" in step && (
              <>
                {" "}
                <span className="rounded-md bg-bench/70 px-1 py-0.5">
                  <RecipeSentence
                    recipe={step.operand}
                    layer={layer}
                    path={`${path}.${index}`}
                    nested
                    onChange={(operand, gesture) =>
                      onChange({ ...recipe, steps: recipe.steps.with(index, { ...step, operand }) }, gesture)
                    }
                  />
                </span>
              </>
            )}
            {After && <After {...props} />}
          </span>
        );
      })}{" "}
      <AddStep recipe={recipe} onChange={onChange} />
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
function Sources({ recipe, layer, onChange }: { recipe: Recipe; layer: string; onChange: Change }) {
  const design = useDesign();
  const names = recipe.from.map((id) => sourceName(design, id));
  const toggle = (id: string) =>
    onChange({
      ...recipe,
      from: recipe.from.includes(id) ? recipe.from.filter((name) => name !== id) : [...recipe.from, id],
    });
  const others = design.layers.filter((one) => one.id !== layer);
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label={`Made from ${names.join(" and ") || "nothing"}`}
          className={`word-field ${names.length ? "" : "text-alarm"}`}
        >
          {names.length ? names.join(" + ") : "choose words"}
        </button>
      }
    >
      <MenuLabel>Words</MenuLabel>
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
function Verb(props: { word: string; after: string; recipe: Recipe; index: number; onChange: Change }) {
  const { word, after, recipe, index, onChange } = props;
  const { steps } = recipe;
  const step = steps[index];
  if (!step) return null;
  const swap = (other: number) =>
    onChange({ ...recipe, steps: steps.toSpliced(index, 1).toSpliced(other, 0, step) });
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label={`${word}: move, switch off or remove this step`}
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
      <MenuItem
        onSelect={() => onChange({ ...recipe, steps: steps.with(index, { ...step, off: !step.off }) })}
      >
        {step.off ? <Eye size={15} /> : <EyeOff size={15} />} {step.off ? "Switch on again" : "Switch off"}
      </MenuItem>
      <MenuLine />
      <MenuItem onSelect={() => onChange({ ...recipe, steps: steps.toSpliced(index, 1) })}>
        <Trash2 size={15} /> Remove this step
      </MenuItem>
    </Menu>
  );
}

const GROUPS = ["Borders", "Holes", "Shapes and shadows", "With other shapes", "Finishing"] as const;

function AddStep({ recipe, onChange }: { recipe: Recipe; onChange: Change }) {
  const design = useDesign();
  const first = design.art[0]?.id;
  const add = (op: Step["op"]) =>
    onChange({
      ...recipe,
      steps: [...recipe.steps, newStep(op, { from: first ? [first] : [], steps: [] })],
    });
  return (
    <Menu
      side="right"
      trigger={
        <button
          type="button"
          aria-label="Add a step"
          title="Add a step"
          className="inline-flex size-5 translate-y-1 items-center justify-center rounded-full border border-line text-soft hover:border-halo hover:text-halo"
        >
          <Plus size={13} />
        </button>
      }
    >
      <div className="grid w-[54rem] max-w-[90vw] grid-cols-2 lg:grid-cols-3">
        {GROUPS.map((group) => (
          <Fragment key={group}>
            <div className="col-span-full">
              <MenuLabel>{group}</MenuLabel>
            </div>
            {STEP_OPS.filter((op) => PHRASES[op].group === group).map((op) => (
              <MenuItem key={op} onSelect={() => add(op)}>
                <Drawing op={op} />
                <span>
                  <span className="block font-semibold">{PHRASES[op].title}</span>
                  <span className="block text-soft text-xs">{PHRASES[op].does}</span>
                </span>
              </MenuItem>
            ))}
          </Fragment>
        ))}
      </div>
    </Menu>
  );
}
