// The letters of the words that are picked on the stage: they are picked and moved by themselves, one or several.

import type { KeyboardEvent } from "react";
import type { PartReply } from "../api/client";
import { changeWords, isLettering } from "../document/art";
import { isMoved, moveLetters, type Point, unplaced } from "../document/place";
import type { Lettering } from "../document/types";
import type { Framed } from "../stage/ArtFrame";
import { pickLetter, select, useSelection } from "../state/selection";
import { edit, now } from "../state/timeline";
import { arrow, type Pointing, useDrag } from "../ui/drag";

type Props = { words: Lettering; letters: PartReply[]; framed: Framed };

export function StageLetters({ words, letters, framed }: Props) {
  const picked = useSelection((state) => state.letters);
  return (
    <>
      {letters.map((letter) => (
        <Letter key={letter.index} letter={letter} block={words} {...framed} />
      ))}
      {/* Over all letters: what is picked is grabbed by anything in its box. */}
      {letters
        .filter(({ index }) => picked.includes(index))
        .map((letter) => (
          <Grip key={letter.index} letter={letter} block={words} {...framed} />
        ))}
    </>
  );
}

type LetterProps = Framed & { letter: PartReply; block: Lettering };

/** Moves letters of a block as it was when the move began. */
function move(start: Lettering, letters: number[], by: Point, gesture: string) {
  const { following } = useSelection.getState();
  const own = unplaced(start.place, by);
  edit(
    (design) => changeWords(design, start.id, () => moveLetters(start, letters, own, following)),
    `${start.id}.letter.${letters.join(".")}.${gesture}`,
  );
}

function Grip({ letter, block, view, mm }: LetterProps) {
  const letters = useSelection((state) => state.letters);
  const drag = useDrag<Lettering>({
    begin: () => block,
    move: (start, event, from) => move(start, letters, mm(event, from), "drag"),
    click: (_, event) => pickLetter(letterAt(event) ?? letter.index, event.shiftKey),
  });
  const [x0, y0, x1, y1] = letter.bounds_mm;
  return (
    <rect
      x={view.x + x0 * view.scale}
      y={view.y - y1 * view.scale}
      width={(x1 - x0) * view.scale}
      height={(y1 - y0) * view.scale}
      className="pointer-events-auto cursor-move fill-transparent"
      onPointerDown={(event) => {
        // The letter keeps the focus, or gets it, for the arrow keys.
        event.preventDefault();
        document.querySelector<SVGElement>(`[data-letter="${letter.index}"]`)?.focus();
        drag.onPointerDown(event);
      }}
    />
  );
}

function Letter({ letter, block, view, mm, moveArt, endMove }: LetterProps) {
  const letters = useSelection((state) => state.letters);
  const picked = letters.includes(letter.index);
  const moved = isMoved(block, letter.index);
  const drag = useDrag<Lettering>({
    begin: () => block,
    move: (start, event, from) => moveArt(start.place, mm(event, from), event.altKey),
    end: endMove,
    click: (_, event) => pickLetter(letter.index, event.shiftKey),
  });
  const keys = (event: KeyboardEvent) => {
    const by = arrow(event);
    const stands =
      now()
        .art.filter(isLettering)
        .find((one) => one.id === block.id) ?? block;
    if (by) {
      if (!picked) select({ letters: [letter.index] });
      move(stands, picked ? letters : [letter.index], by, "keys");
    } else if (event.key === "Enter" || event.key === " ") pickLetter(letter.index, event.shiftKey);
    else if (event.key === "Escape" && picked) select({ letters: [] });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [x0, y0, x1] = letter.bounds_mm;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`Letter ${letter.text}${moved ? ", moved" : ""}: arrow keys move it`}
      aria-pressed={picked}
      data-letter={letter.index}
      className="group/letter outline-none"
      onKeyDown={keys}
    >
      <g transform={`translate(${view.x} ${view.y}) scale(${view.scale})`}>
        <path
          d={letter.path}
          fillRule="evenodd"
          vectorEffect="non-scaling-stroke"
          strokeWidth={picked ? 2.5 : 1.5}
          className={`pointer-events-auto cursor-pointer group-focus-visible/letter:stroke-halo ${picked ? "fill-glow/40 stroke-halo" : "fill-transparent hover:stroke-halo/70"}`}
          {...drag}
        />
      </g>
      {moved && (
        <circle
          cx={view.x + ((x0 + x1) / 2) * view.scale}
          cy={view.y - y0 * view.scale + 9}
          r={3}
          className="pointer-events-none fill-halo"
        />
      )}
    </g>
  );
}

/** The letter whose own shape is clicked: the box of a picked one may lie over its neighbours. */
function letterAt({ clientX, clientY }: Pointing): number | null {
  const shape = document
    .elementsFromPoint(clientX, clientY)
    .find((element) => element.tagName === "path" && element.closest("[data-letter]"));
  const letter = shape?.closest("[data-letter]")?.getAttribute("data-letter");
  return letter ? Number(letter) : null;
}
