// Under each block of words: whether its words hold together once cut, and closing them up.

import { ArrowDownToLine, FoldHorizontal, Spline, TriangleAlert, Undo2 } from "lucide-react";
import { memo } from "react";
import type { ArtReply, WordReply } from "../api/client";
import { changeWords, lowerMarks, patchWords } from "../document/art";
import { graphemes } from "../document/letters";
import type { Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { select, useSelection } from "../state/selection";
import { commit, edits, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Menu, MenuCheck, MenuLabel } from "../ui/Menu";

const OVERLAP = 0.3;

type HoldProps = { art: Lettering; reply: ArtReply | null };

export const Hold = memo(function Hold({ art, reply }: HoldProps) {
  const unit = useUnit();
  const seams = useSelection((state) => state.seams);
  const { join } = art;
  const set = (patch: Partial<Lettering>, gesture?: string) =>
    edits((design) => patchWords(design, art.id, patch), gesture && `${art.id}.${gesture}`);

  return (
    <div className="mt-1 px-1 text-xs">
      <div className="flex items-start gap-1">
        <p className="min-w-0 flex-1 py-1 leading-6">
          <button
            type="button"
            aria-pressed={join !== null}
            title="Move letters closer, as little as it takes, until each word holds together"
            className="mr-1 rounded-lg px-1 hover:bg-bench"
            onClick={() => commit(set({ join: join ? null : { overlap: OVERLAP, apart: [] } }))}
          >
            <FoldHorizontal
              size={15}
              className={`mr-1.5 inline align-[-3px] ${join ? "text-halo" : "text-soft"}`}
            />
            <span className={join ? "font-semibold" : "text-soft"}>{join ? "Closed up" : "Close up"}</span>
          </button>
          {join && (
            <>
              by overlaps of{" "}
              <EditNumber
                inline
                label="Overlap"
                value={join.overlap}
                unit={unit}
                above={0}
                max={20}
                step={unit === "mm" ? 0.05 : 0.002}
                edits={(overlap) => set({ join: { ...join, overlap } }, "overlap")}
              />
              , <Apart art={art} onChange={(apart) => commit(set({ join: { ...join, apart } }))} />
            </>
          )}
        </p>
        <IconButton
          label={seams ? "Hide the seams between letters" : "Show the seams between letters"}
          aria-pressed={seams}
          className={`size-7 ${seams ? "bg-bench text-ink" : ""}`}
          onClick={() => select({ seams: !seams })}
        >
          <Spline size={14} />
        </IconButton>
      </div>
      {reply?.words.map((word, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the same word may come twice
        <Word key={`${index}-${word.text}`} word={word} joined={join !== null} />
      ))}
      <Marks art={art} words={reply?.words ?? []} />
    </div>
  );
});

/** One word's pieces; the fault is only called one where letters were meant to hold. */
function Word({ word, joined }: { word: WordReply; joined: boolean }) {
  const named = (why: string[]) => word.loose.filter((one) => why.includes(one.why)).map((one) => one.name);
  const loose = named(["letters"]);
  const marks = named(["mark"]);
  const apart = named(["apart"]);
  const faulty = joined && loose.length > 0;
  const parts = [
    word.pieces === 1 ? "one piece" : `${word.pieces} pieces`,
    joined && loose.length > 0 && `${listed(loose)} ${loose.length === 1 ? "is" : "are"} loose`,
    marks.length > 0 && `${listed(marks)} ${marks.length === 1 ? "stands" : "stand"} free`,
    apart.length > 0 && `${listed(apart)} ${apart.length === 1 ? "stands" : "stand"} apart as you chose`,
  ].filter(Boolean);
  return (
    <p className={`flex gap-1 ${faulty ? "text-alarm" : "text-soft"}`}>
      {faulty && <TriangleAlert size={13} aria-hidden="true" className="mt-0.5 shrink-0" />}
      <span>
        <b className="font-semibold">{word.text}</b>: {parts.join("; ")}
      </span>
    </p>
  );
}

/** Dots and accents: moved to the letters they stand free of, and how deep they reach into them. */
function Marks({ art, words }: { art: Lettering; words: WordReply[] }) {
  const unit = useUnit();
  const change = (how: (one: Lettering) => Lettering, gesture?: string) =>
    edits((design) => changeWords(design, art.id, how), gesture && `${art.id}.${gesture}`);
  const free = words
    .flatMap((word) => word.loose.filter((one) => one.why === "mark").flatMap((one) => one.parts))
    .filter((letter) => !(letter in art.lowered));
  const moved = Object.keys(art.lowered).map(Number);
  const overlap = art.lowered[moved[0] ?? -1] ?? OVERLAP;
  const letters = graphemes(art.text);
  return (
    <>
      {moved.length > 0 && (
        <p className="flex items-center gap-1 leading-6">
          <span className="min-w-0 flex-1">
            Dots of {listed(moved.map((index) => letters[index] ?? ""))} moved until they overlap by{" "}
            <EditNumber
              inline
              label="Overlap of dots"
              value={overlap}
              unit={unit}
              above={0}
              max={20}
              step={unit === "mm" ? 0.05 : 0.002}
              edits={(by) => change((one) => lowerMarks(one, moved, by), "lowered")}
            />
          </span>
          <IconButton
            label="Put the dots back"
            className="size-7"
            onClick={() => commit(change((one) => ({ ...one, lowered: {} })))}
          >
            <Undo2 size={14} />
          </IconButton>
        </p>
      )}
      {free.length > 0 && (
        <button
          type="button"
          title="Move dots and accents straight to their letters, until these are one piece"
          className="rounded-lg px-1 py-1 text-soft hover:bg-bench hover:text-ink"
          onClick={() => commit(change((one) => lowerMarks(one, free, overlap)))}
        >
          <ArrowDownToLine size={15} className="mr-1.5 inline align-[-3px]" />
          Move dots until they touch
        </button>
      )}
    </>
  );
}

function listed(all: string[]): string {
  const names = [...new Set(all)].map((name) => {
    const times = all.filter((one) => one === name).length;
    if (times === 1) return name;
    // “a dot of the ë”, twice
    const several = name.replace(/^an? (\w+) of/, `${times} $1s of`);
    return several === name ? `${name} (${times === 2 ? "twice" : `${times} times`})` : several;
  });
  const shown = names.slice(0, 4).join(", ");
  return names.length > 4 ? `${shown} and ${names.length - 4} more` : shown;
}

function Apart({ art, onChange }: { art: Lettering; onChange: (apart: number[]) => void }) {
  const apart = art.join?.apart ?? [];
  const letters = graphemes(art.text);
  const toggle = (index: number) =>
    onChange(
      apart.includes(index) ? apart.filter((i) => i !== index) : [...apart, index].sort((a, b) => a - b),
    );
  return (
    <Menu
      trigger={
        <button type="button" className="word-field" title="Letters that stand alone on purpose">
          {apart.length === 0 ? "all letters" : `all but ${apart.map((i) => letters[i]).join(" ")}`}
        </button>
      }
    >
      <MenuLabel>Letters that close up</MenuLabel>
      {letters.slice(0, 60).map(
        (letter, index) =>
          letter.trim() && (
            // biome-ignore lint/suspicious/noArrayIndexKey: a letter is known by its place
            <MenuCheck key={index} on={!apart.includes(index)} onSelect={() => toggle(index)}>
              {letter}
            </MenuCheck>
          ),
      )}
    </Menu>
  );
}
