// The picked letter as a sentence with live numbers, at the foot of the stage.

import { changeWords, isLettering } from "../document/art";
import { graphemes } from "../document/letters";
import { isMoved, moveLetter, moveOf, putBack, setMove } from "../document/place";
import type { Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { select, useSelection } from "../state/selection";
import { commit, edits, usePart, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";

export function LetterStrip() {
  const unit = useUnit();
  const picked = useSelection((state) => state.picked);
  const letter = useSelection((state) => state.letter);
  const following = useSelection((state) => state.following);
  const art = usePart((design) => design.art.filter(isLettering).find((one) => one.id === picked));
  if (!art || letter === null) return null;
  const text = graphemes(art.text)[letter];
  if (!text) return null;
  const { dx, dy, turn, scale } = moveOf(art, letter);
  const across = dx + (art.nudges[letter] ?? 0);
  const change = (how: (art: Lettering) => Lettering, gesture: string) =>
    edits((d) => changeWords(d, art.id, how), `${art.id}.letter.${letter}.${gesture}`);
  const common = { inline: true } as const;
  return (
    <section
      aria-label={`The letter ${text}`}
      className="absolute bottom-3 left-9 rounded-xl border border-line bg-sheet px-3 py-1.5 shadow-black/10 shadow-md"
    >
      <p className="whitespace-nowrap leading-7">
        <b className="mr-1 font-display text-base">{text}</b>
        moved{" "}
        <EditNumber
          {...common}
          label="Letter across"
          value={across}
          unit={unit}
          min={-1000}
          max={1000}
          edits={(x) => change((one) => moveLetter(one, letter, { x: x - across, y: 0 }, following), "dx")}
        />{" "}
        across,{" "}
        <EditNumber
          {...common}
          label="Letter up"
          value={dy}
          unit={unit}
          min={-1000}
          max={1000}
          edits={(y) => change((one) => moveLetter(one, letter, { x: 0, y: y - dy }, following), "dy")}
        />{" "}
        up, turned{" "}
        <EditNumber
          {...common}
          label="Letter turned"
          value={turn}
          unit={null}
          min={-360}
          max={360}
          step={1}
          edits={(next) => change((one) => setMove(one, letter, { turn: next }), "turn")}
        />
        °,{" "}
        <EditNumber
          {...common}
          label="Letter size"
          value={scale}
          unit={null}
          above={0}
          max={20}
          step={0.05}
          edits={(next) => change((one) => setMove(one, letter, { scale: next }), "scale")}
        />{" "}
        times its size
      </p>
      {/* A row of its own: it must not move under the pointer while a number above gets wider. */}
      <div className="-ml-2 flex">
        <Button
          look="quiet"
          className="px-2"
          aria-pressed={following}
          title="Whether the letters after it on its line move along"
          onClick={() => select({ following: !following })}
        >
          {following ? "Moves all that follow" : "Moves alone"}
        </Button>
        <Button
          look="quiet"
          className="px-2"
          disabled={!isMoved(art, letter)}
          onClick={() => commit(change((one) => putBack(one, letter), "back"))}
        >
          Put back
        </Button>
        <Button look="quiet" className="px-2" onClick={() => select({ letter: null })}>
          Done
        </Button>
      </div>
    </section>
  );
}
