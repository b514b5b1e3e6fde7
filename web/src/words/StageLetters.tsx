// The letters of the words that are picked on the stage: each is picked and moved by itself.

import type { KeyboardEvent } from "react";
import type { PartReply } from "../api/client";
import { changeWords, isLettering } from "../document/art";
import { isMoved, moveLetter, type Point, unplaced } from "../document/place";
import type { Lettering } from "../document/types";
import type { Framed } from "../stage/ArtFrame";
import { arrow, useDrag } from "../stage/drag";
import { select, useSelection } from "../state/selection";
import { edit, now } from "../state/timeline";

type Props = { words: Lettering; letters: PartReply[]; framed: Framed };

export function StageLetters({ words, letters, framed }: Props) {
  return letters.map((letter) => <Letter key={letter.index} letter={letter} block={words} {...framed} />);
}

type LetterProps = Framed & { letter: PartReply; block: Lettering };

function Letter({ letter, block, view, mm, moveArt, endMove }: LetterProps) {
  const picked = useSelection((state) => state.letter === letter.index);
  const following = useSelection((state) => state.following);
  const moved = isMoved(block, letter.index);
  const set = (start: Lettering, by: Point, gesture: string) => {
    const own = unplaced(start.place, by);
    edit(
      (design) => changeWords(design, block.id, () => moveLetter(start, letter.index, own, following)),
      `${block.id}.letter.${letter.index}.${gesture}`,
    );
  };
  const drag = useDrag<{ block: Lettering; own: boolean }>({
    begin: () => ({ block, own: picked }),
    move: (start, event, from) => {
      if (start.own) set(start.block, mm(event, from), "drag");
      else moveArt(start.block.place, mm(event, from), event.altKey);
    },
    end: endMove,
    click: () => select({ letter: picked ? null : letter.index }),
  });
  const keys = (event: KeyboardEvent) => {
    const by = arrow(event);
    const stands =
      now()
        .art.filter(isLettering)
        .find((one) => one.id === block.id) ?? block;
    if (by) {
      select({ letter: letter.index });
      set(stands, by, "keys");
    } else if (event.key === "Enter" || event.key === " ") select({ letter: picked ? null : letter.index });
    else if (event.key === "Escape" && picked) select({ letter: null });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [x0, , x1] = letter.bounds_mm;
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
          cy={view.y - letter.bounds_mm[1] * view.scale + 9}
          r={3}
          className="pointer-events-none fill-halo"
        />
      )}
    </g>
  );
}
