// Under each block of words: whether its words hold together once cut, and closing them up.

import { ArrowDownToLine, FoldHorizontal, Spline, TriangleAlert, Undo2 } from "lucide-react";
import { memo } from "react";
import type { ArtReply, WordReply } from "../api/client";
import { changeWords, lowerMarks, patchWords } from "../document/art";
import { graphemes } from "../document/letters";
import type { Lettering } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { LEAST_MM } from "../fields/limits";
import { select, useSelection } from "../state/selection";
import { commit, edit, edits, useUnit } from "../state/timeline";
import { IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Menu, MenuCheck, MenuLabel } from "../ui/Menu";

const OVERLAP = 0.3;

const MARKS = [
  { value: "stay" as const, text: "dots stay" },
  { value: "too" as const, text: "dots too" },
];

type HoldProps = { art: Lettering; reply: ArtReply | null };

export const Hold = memo(function Hold({ art, reply }: HoldProps) {
  const unit = useUnit();
  const seams = useSelection((state) => state.seams);
  const { join } = art;
  const set = (patch: Partial<Lettering>, gesture?: string) =>
    edits((design) => patchWords(design, art.id, patch), gesture && `${art.id}.${gesture}`);

  return (
    <div className="px-1 text-xs">
      <div className="flex items-start gap-1">
        <p className="min-w-0 flex-1 py-0.5 leading-6">
          <button
            type="button"
            aria-pressed={join !== null}
            title="Move letters closer, as little as it takes, until each word holds together"
            className="mr-1 rounded-lg px-1 hover:bg-bench"
            onClick={() => commit(set({ join: join ? null : { overlap: OVERLAP, apart: [], marks: false } }))}
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
                min={LEAST_MM}
                max={20}
                step={unit === "mm" ? 0.05 : 0.002}
                edits={(overlap) => set({ join: { ...join, overlap } }, "overlap")}
              />
              , <Apart art={art} onChange={(apart) => commit(set({ join: { ...join, apart } }))} />,{" "}
              <Choice
                inline
                label="Dots and accents"
                value={join.marks ? "too" : "stay"}
                groups={[{ options: MARKS }]}
                onChange={(marks) => commit(set({ join: { ...join, marks: marks === "too" } }))}
              />
            </>
          )}
          <MoveMarks art={art} words={reply?.words ?? []} />
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
      <p>
        {reply?.words.map((word, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the same word may come twice
          <Word key={`${index}-${word.text}`} word={word} joined={join !== null} />
        ))}
      </p>
      <MovedMarks art={art} />
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
    <span className={`mr-2.5 ${faulty ? "text-alarm" : "text-soft"}`}>
      {faulty && <TriangleAlert size={13} aria-hidden="true" className="mr-1 inline align-[-2px]" />}
      <b className="font-semibold">{word.text}</b>: {parts.join("; ")}
    </span>
  );
}

/** How deep dots and accents reach that have been moved to their letters. */
function MovedMarks({ art }: { art: Lettering }) {
  const unit = useUnit();
  const moved = Object.keys(art.lowered).map(Number);
  if (moved.length === 0) return null;
  const letters = graphemes(art.text);
  return (
    <p className="flex items-center gap-1 leading-6">
      <span className="min-w-0 flex-1">
        Dots of {listed(moved.map((index) => letters[index] ?? ""))} moved until they overlap by{" "}
        <EditNumber
          inline
          label="Overlap of dots"
          value={overlapOf(art)}
          unit={unit}
          min={LEAST_MM}
          max={20}
          step={unit === "mm" ? 0.05 : 0.002}
          edits={(by) =>
            edits(
              (design) => changeWords(design, art.id, (one) => lowerMarks(one, moved, by)),
              `${art.id}.lowered`,
            )
          }
        />
      </span>
      <IconButton
        label="Put the dots back"
        className="size-7"
        onClick={() => edit((design) => patchWords(design, art.id, { lowered: {} }))}
      >
        <Undo2 size={14} />
      </IconButton>
    </p>
  );
}

/** Moves dots and accents straight to the letters that they stand free of. */
function MoveMarks({ art, words }: { art: Lettering; words: WordReply[] }) {
  const free = words
    .flatMap((word) => word.loose.filter((one) => one.why === "mark").flatMap((one) => one.parts))
    .filter((letter) => !(letter in art.lowered));
  if (free.length === 0) return null;
  const move = (one: Lettering) => lowerMarks(one, free, overlapOf(art));
  return (
    <button
      type="button"
      title="Move dots and accents straight to their letters, until these are one piece"
      className="rounded-lg px-1 text-soft hover:bg-bench hover:text-ink"
      onClick={() => edit((design) => changeWords(design, art.id, move))}
    >
      <ArrowDownToLine size={15} className="mr-1.5 inline align-[-3px]" />
      Move dots until they touch
    </button>
  );
}

function overlapOf({ lowered }: Lettering): number {
  return Object.values(lowered)[0] ?? OVERLAP;
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
