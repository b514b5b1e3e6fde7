// The picked letters as a sentence with live numbers, at the foot of the stage. Several take the numbers of the first.

import { changeWords, isLettering } from "../document/art";
import { graphemes } from "../document/letters";
import { isMoved, moveLetters, moveOf, putBack, setMove } from "../document/place";
import type { Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { select, useSelection } from "../state/selection";
import { commit, edits, usePart, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";

export function LetterStrip() {
  const unit = useUnit();
  const picked = useSelection((state) => state.picked);
  const letters = useSelection((state) => state.letters);
  const following = useSelection((state) => state.following);
  const art = usePart((design) => design.art.filter(isLettering).find((one) => one.id === picked));
  const [letter] = letters;
  if (!art || letter === undefined) return null;
  const typed = graphemes(art.text);
  const text = letters.map((one) => typed[one] ?? "").join(" ");
  if (!text.trim()) return null;
  const several = letters.length > 1;
  const { dx, dy, turn, scale } = moveOf(art, letter);
  const across = dx + (art.nudges[letter] ?? 0);
  const change = (how: (art: Lettering) => Lettering, gesture: string) =>
    edits((d) => changeWords(d, art.id, how), `${art.id}.letter.${letters.join(".")}.${gesture}`);
  const move = (x: number, y: number, gesture: string) =>
    change((one) => moveLetters(one, letters, { x, y }, following), gesture);
  const each = (how: (art: Lettering, letter: number) => Lettering, gesture: string) =>
    change((one) => letters.reduce(how, one), gesture);
  const common = { inline: true } as const;
  return (
    <section
      aria-label={several ? `The letters ${text}` : `The letter ${text}`}
      className="absolute bottom-3 left-9 max-sm:right-3 max-[1100px]:bottom-16 rounded-xl border border-line bg-sheet px-3 py-1.5 shadow-black/10 shadow-md"
    >
      <p className="leading-7 sm:whitespace-nowrap">
        <b className="mr-1 font-display text-base">{text}</b>
        moved{" "}
        <EditNumber
          {...common}
          label="Letter across"
          value={across}
          unit={unit}
          min={-1000}
          max={1000}
          edits={(x) => move(x - across, 0, "dx")}
        />{" "}
        across,{" "}
        <EditNumber
          {...common}
          label="Letter up"
          value={dy}
          unit={unit}
          min={-1000}
          max={1000}
          edits={(y) => move(0, y - dy, "dy")}
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
          edits={(turn) => each((one, k) => setMove(one, k, { turn }), "turn")}
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
          edits={(scale) => each((one, k) => setMove(one, k, { scale }), "scale")}
        />{" "}
        times its size
      </p>
      {/* A row of its own: it must not move under the pointer while a number above gets wider. */}
      <div className="-ml-2 flex">
        {!several && (
          <label className="flex items-center gap-1.5 px-2" title="Letters after it on its line move along">
            <input
              type="checkbox"
              checked={following}
              className="accent-halo"
              onChange={() => select({ following: !following })}
            />
            With all that follow
          </label>
        )}
        <Button
          look="quiet"
          className="px-2"
          disabled={!letters.some((one) => isMoved(art, one))}
          onClick={() => commit(each(putBack, "back"))}
        >
          Put back
        </Button>
        <Button look="quiet" className="px-2" onClick={() => select({ letters: [] })}>
          Done
        </Button>
      </div>
    </section>
  );
}
