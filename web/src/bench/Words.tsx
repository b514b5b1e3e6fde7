// The words: each lettering block is a box you type in, with its font and measures under it.

import { AlignCenter, AlignLeft, AlignRight, Plus, Trash2 } from "lucide-react";
import { memo, type RefObject, useEffect, useRef } from "react";
import { useLocation } from "react-router";
import type { ArtReply } from "../api/client";
import { addArt, patchArt, removeArt, retextArt, sourceName } from "../document/edit";
import type { Lettering } from "../document/types";
import { Button, IconButton } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import type { Building } from "./building";
import { FontBrowser } from "./FontBrowser";
import { Hold } from "./Hold";
import { edit, useBench, usePart, useUnit } from "./history";
import { LetterForms } from "./LetterForms";
import { LineUp } from "./LineUp";
import { Labelled, Standing } from "./Standing";
import { sayUndoable } from "./undoable";

const NONE: ArtReply[] = [];

export const Words = memo(function Words({ building }: { building: Building }) {
  const blocks = usePart((design) => design.art);
  const replies = building.built?.reply.art;
  return (
    <section aria-label="Words" className="border-line border-b p-4">
      <div className="mb-2 flex items-center">
        <h2 className="flex-1 font-display font-semibold text-lg">Words</h2>
        <LineUp replies={replies ?? NONE} />
        <Button look="quiet" onClick={() => edit(addArt)}>
          <Plus size={15} /> More words
        </Button>
      </div>
      <div className="flex flex-col gap-4">
        {blocks.map((art, index) => (
          <div key={art.id} data-testid={`words-${art.id}`}>
            <Block art={art} first={index === 0} only={blocks.length === 1} />
            <Hold art={art} reply={replies?.find((one) => one.id === art.id) ?? null} />
          </div>
        ))}
        {blocks.length === 0 && <p className="text-soft">No words yet. Add some to begin.</p>}
      </div>
    </section>
  );
});

const ALIGNMENTS = [
  ["left", "Lines start at the left", AlignLeft],
  ["center", "Lines are centred", AlignCenter],
  ["right", "Lines end at the right", AlignRight],
] as const;

const Block = memo(function Block({ art, first, only }: { art: Lettering; first: boolean; only: boolean }) {
  const unit = useUnit();
  const box = useRef<HTMLTextAreaElement>(null);
  const fresh = (useLocation().state as { fresh?: boolean } | null)?.fresh === true;
  useEffect(() => {
    // A new design is opened to type into.
    if (first && fresh) box.current?.select();
  }, [first, fresh]);

  const selected = useSelectionBefore(box);
  const set = (patch: Partial<Lettering>, gesture?: string) =>
    edit((design) => patchArt(design, art.id, patch), gesture && `${art.id}.${gesture}`);
  const settled = useBench.getState().endGesture;
  const lines = art.text.split("\n").length;

  return (
    <div>
      <textarea
        ref={box}
        aria-label={only ? "The words" : `The words “${art.id}”`}
        value={art.text}
        rows={Math.min(4, Math.max(1, lines))}
        maxLength={20_000}
        spellCheck={false}
        placeholder="Type the words"
        className="block w-full resize-none rounded-t-xl border border-line border-b-0 bg-sheet px-3 py-2 font-display font-semibold text-xl leading-snug"
        onChange={({ target }) =>
          edit(
            (design) => retextArt(design, art.id, target.value, target.selectionStart, selected.current),
            `${art.id}.text`,
          )
        }
        onBlur={settled}
      />
      <div className="flex flex-col gap-2 rounded-b-xl border border-line bg-sheet/60 p-2">
        <div className="grid grid-cols-[minmax(0,1fr)_6rem] gap-2">
          <FontBrowser art={art} onChange={(font) => set({ font, axes: {}, features: {} })} />
          <NumberField
            label="Size"
            value={art.size}
            unit={unit}
            above={0}
            max={2000}
            step={unit === "mm" ? 0.5 : 0.02}
            onChange={(size) => set({ size }, "size")}
            onSettled={settled}
          />
        </div>
        <details className="group">
          <summary className="cursor-pointer text-soft text-xs hover:text-ink">
            Spacing, lines and place
          </summary>
          <div className="mt-2 grid grid-cols-2 gap-2">
            <Labelled text="Between letters">
              <NumberField
                label="Letter spacing"
                value={art.letter_spacing}
                unit={unit}
                min={-1000}
                max={1000}
                onChange={(letter_spacing) => set({ letter_spacing }, "letters")}
                onSettled={settled}
              />
            </Labelled>
            <Labelled text="Between lines, in sizes">
              <NumberField
                label="Line spacing"
                value={art.line_spacing}
                unit={null}
                min={0}
                max={10}
                step={0.05}
                onChange={(line_spacing) => set({ line_spacing }, "lines")}
                onSettled={settled}
              />
            </Labelled>
            <Standing art={art} />
            <LetterForms art={art} />
            <fieldset aria-label="Alignment" className="col-span-2 flex items-center">
              {ALIGNMENTS.map(([align, label, Picture]) => (
                <IconButton
                  key={align}
                  label={label}
                  aria-pressed={art.align === align}
                  className={art.align === align ? "bg-bench text-ink" : ""}
                  onClick={() => set({ align })}
                >
                  <Picture size={16} />
                </IconButton>
              ))}
              <span className="flex-1" />
              <RemoveWords id={art.id} />
            </fieldset>
          </div>
        </details>
      </div>
    </div>
  );
});

/** What was selected in a text field before its last input: tells which letters an edit replaced. */
function useSelectionBefore(field: RefObject<HTMLTextAreaElement | null>) {
  const selected = useRef<{ start: number; end: number } | null>(null);
  useEffect(() => {
    const box = field.current;
    const note = () => {
      if (box) selected.current = { start: box.selectionStart, end: box.selectionEnd };
    };
    box?.addEventListener("beforeinput", note);
    return () => box?.removeEventListener("beforeinput", note);
  }, [field]);
  return selected;
}

function RemoveWords({ id }: { id: string }) {
  const name = usePart((design) => sourceName(design, id));
  const remove = () => {
    edit((design) => removeArt(design, id));
    sayUndoable(`“${name}” is taken out of all layers.`);
  };
  return (
    <Button look="quiet" onClick={remove}>
      <Trash2 size={15} /> Remove
    </Button>
  );
}
