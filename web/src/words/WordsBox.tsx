// A block of words: a box you type in, with its font and measures under it.

import { AlignCenter, AlignLeft, AlignRight } from "lucide-react";
import { memo, useEffect, useRef } from "react";
import { useLocation } from "react-router";
import type { ArtReply } from "../api/client";
import { RemoveArt } from "../art/RemoveArt";
import { Labelled, Standing } from "../art/Standing";
import { typedInto } from "../bench/useUndoKeys";
import { patchWords } from "../document/art";
import type { Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { commit, edits, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { row } from "../ui/rows";
import { FontBrowser } from "./FontBrowser";
import { Hold } from "./Hold";
import { IntoShape } from "./IntoShape";
import { LetterForms } from "./LetterForms";
import { SplitWords } from "./SplitWords";
import { useTyping } from "./useTyping";
import { WordsLine } from "./WordsLine";

const ALIGNMENTS = [
  ["left", "Lines start at the left", AlignLeft],
  ["center", "Lines are centred", AlignCenter],
  ["right", "Lines end at the right", AlignRight],
] as const;

type Props = { art: Lettering; reply: ArtReply | null; first: boolean; only: boolean };

export const WordsBox = memo(function WordsBox({ art, reply, first, only }: Props) {
  const unit = useUnit();
  const box = useRef<HTMLTextAreaElement>(null);
  const fresh = (useLocation().state as { fresh?: boolean } | null)?.fresh === true;
  useEffect(() => {
    // A new design is opened to type into.
    if (first && fresh) box.current?.select();
  }, [first, fresh]);

  const typed = useTyping(art.id, box);
  const set = (patch: Partial<Lettering>, gesture?: string) =>
    edits((design) => patchWords(design, art.id, patch), gesture && `${art.id}.${gesture}`);
  const lines = art.text.split("\n").length;

  return (
    <div>
      <textarea
        ref={box}
        {...row(art.id)}
        {...typedInto(`${art.id}.text`)}
        aria-label={only ? "The words" : `The words “${art.id}”`}
        value={art.text}
        rows={Math.min(4, Math.max(1, lines))}
        {...typed}
        placeholder="Type the words"
        className="field-sizing-content block max-h-36 min-h-9 w-full resize-none rounded-t-xl border border-line border-b-0 bg-sheet px-3 py-1 font-display font-semibold text-xl leading-snug"
      />
      <div className="flex flex-col gap-1.5 rounded-b-xl border border-line bg-sheet/60 p-1.5">
        <div className="grid grid-cols-[minmax(0,1fr)_6rem] gap-2">
          <FontBrowser art={art} onChange={(font) => commit(set({ font, axes: {}, features: {} }))} />
          <EditNumber
            label="Size"
            value={art.size}
            unit={unit}
            min={0.5}
            max={5000}
            step={unit === "mm" ? 0.5 : 0.02}
            edits={(size) => set({ size }, "size")}
          />
        </div>
        <details className="group">
          <summary className="cursor-pointer py-1 text-soft text-xs hover:text-ink">
            Spacing, lines and place
          </summary>
          <div className="slim mt-2 grid max-h-[30vh] grid-cols-2 gap-2 overflow-y-auto">
            <Labelled text="Between letters">
              <EditNumber
                label="Letter spacing"
                value={art.letter_spacing}
                unit={unit}
                min={-1000}
                max={1000}
                edits={(letter_spacing) => set({ letter_spacing }, "letters")}
              />
            </Labelled>
            <Labelled text="Between lines, in sizes">
              <EditNumber
                label="Line spacing"
                value={art.line_spacing ?? (reply?.lines?.distance_mm ?? art.size) / art.size}
                unit={null}
                min={0}
                max={10}
                step={0.05}
                edits={(line_spacing) => set({ line_spacing }, "lines")}
              />
            </Labelled>
            {art.line_spacing !== null && lines > 1 && (
              <Button
                look="quiet"
                className="col-span-2 justify-self-end text-xs"
                onClick={() => commit(set({ line_spacing: null }))}
              >
                Automatic distance
              </Button>
            )}
            <WordsLine art={art} reply={reply} />
            <IntoShape art={art} reply={reply} />
            <Standing art={art} />
            <LetterForms art={art} />
          </div>
          <fieldset aria-label="Alignment" className="flex items-center">
            {ALIGNMENTS.map(([align, label, Picture]) => (
              <IconButton
                key={align}
                label={label}
                aria-pressed={art.align === align}
                className={art.align === align ? "bg-bench text-ink" : ""}
                onClick={() => commit(set({ align }))}
              >
                <Picture size={16} />
              </IconButton>
            ))}
            <span className="flex-1" />
            <SplitWords art={art} />
            <RemoveArt id={art.id} />
          </fieldset>
        </details>
      </div>
      <Hold art={art} reply={reply} />
    </div>
  );
});
