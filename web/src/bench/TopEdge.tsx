// The top edge: way back, name, finished size, undo, redo, unit, hand-over.

import { BookmarkPlus, ChevronLeft, Redo2, Undo2 } from "lucide-react";
import { memo } from "react";
import { Link, useNavigate } from "react-router";
import { api } from "../api/client";
import { FinishedSize } from "../dialogs/FinishedSize";
import { KeysPage } from "../dialogs/KeysPage";
import { readable } from "../document/readable";
import { NamesButton } from "../names/NamesButton";
import { ProofForm } from "../round/ProofForm";
import type { Building } from "../state/building";
import { type Saving, useSaving } from "../state/saving";
import { edit, now, usePart, useTimeline, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { attempt } from "../ui/Failure";
import { keyText } from "../ui/keys";
import { ThemeButton } from "../ui/ThemeButton";
import { say } from "../ui/toast";
import { Others } from "./Others";
import { typedInto } from "./useUndoKeys";

const SAVING: Record<Saving, string> = {
  saved: "Saved",
  waiting: "Saving…",
  saving: "Saving…",
  offline: "Not saved: no answer from the server. Trying again…",
  refused: "Not saved",
  stale: "Not saved: changed elsewhere",
};

/** Keep the design's layers to begin from with other words. */
function SaveStarter() {
  const save = async () => {
    const design = now();
    const title = design.name.trim() || "Untitled";
    await attempt("bench", async () => {
      await api.saveStarter(title, design);
      say(`“${title}” is among the starters now: you find it under “New design”.`);
    });
  };
  return (
    <IconButton label="Save as a starter" onClick={() => void save()}>
      <BookmarkPlus size={16} />
    </IconButton>
  );
}

export function TopEdge({ building }: { building: Building }) {
  const finished = building.built?.reply.finished_mm ?? null;
  return (
    <header className="col-span-full row-start-1 flex h-13 items-center gap-2 border-line border-b bg-sheet px-3 max-sm:gap-0.5 max-sm:px-1.5">
      <Named />
      <span className="flex-1" />
      <span className="max-sm:hidden">
        <FinishedSize bounds={finished} build={building.built?.count} />
      </span>
      <span className="flex-1" />
      <Undoing />
      <span className="max-[1100px]:hidden">
        <ProofForm />
      </span>
      <ToHandOver />
    </header>
  );
}

function ToHandOver() {
  const id = useTimeline((state) => state.id);
  const go = useNavigate();
  return (
    <Button look="main" onClick={() => go(`/design/${id}/hand-over`)}>
      Hand over
    </Button>
  );
}

/** The way back, the design's name, and whether it is saved. */
const Named = memo(function Named() {
  const name = usePart((design) => design.name);
  const saving = useSaving((state) => state.saving);
  const refusal = useSaving((state) => state.refusal);
  const trouble = saving === "offline" || saving === "refused" || saving === "stale";

  return (
    <>
      <Link
        to="/"
        aria-label="Back to the shelf"
        title="Back to the shelf"
        className="inline-flex size-8 items-center justify-center rounded-lg text-soft hover:bg-bench hover:text-ink"
      >
        <ChevronLeft size={20} />
      </Link>
      <input
        aria-label="Name of the design"
        {...typedInto("name")}
        value={name}
        maxLength={200}
        placeholder="Untitled"
        className="h-8 w-52 min-w-16 rounded-lg border border-transparent bg-transparent px-2 font-display font-semibold text-base hover:border-line focus:border-line"
        onChange={(event) => edit((d) => ({ ...d, name: readable(event.target.value) }), "name")}
      />
      <span className="max-[900px]:hidden">
        <SaveStarter />
        <NamesButton />
      </span>
      <span
        role="status"
        className={`text-xs ${trouble ? "min-w-0 font-semibold text-alarm" : "text-soft max-[900px]:sr-only"}`}
      >
        {saving === "offline" && refusal
          ? `Not saved: ${refusal} Trying again…`
          : `${SAVING[saving]}${refusal && `: ${refusal}`}`}
      </span>
      <Others />
    </>
  );
});

/** Undo and redo, the unit and the theme. */
export const Undoing = memo(function Undoing() {
  const canUndo = useTimeline((state) => state.at > state.first);
  const canRedo = useTimeline((state) => state.at < state.first + state.timeline.length - 1);
  const { undo, redo } = useTimeline.getState();
  const unit = useUnit();
  return (
    <>
      <IconButton label={`Undo (${keyText("undo")})`} onClick={undo} disabled={!canUndo}>
        <Undo2 size={17} />
      </IconButton>
      <IconButton label="Redo (Ctrl+Shift+Z)" onClick={redo} disabled={!canRedo}>
        <Redo2 size={17} />
      </IconButton>
      <Button
        look="quiet"
        className="max-sm:hidden max-[900px]:px-1.5"
        aria-label={`Unit: ${unit === "mm" ? "millimetres" : "inches"}. Change to ${unit === "mm" ? "inches" : "millimetres"}`}
        title="Show millimetres or inches"
        onClick={() => edit((d) => ({ ...d, unit: d.unit === "mm" ? "in" : "mm" }))}
      >
        <span className={unit === "mm" ? "font-semibold text-ink" : ""}>mm</span>
        <span className="text-line">/</span>
        <span className={unit === "in" ? "font-semibold text-ink" : ""}>in</span>
      </Button>
      <span className="flex max-sm:hidden">
        <span className="max-[900px]:hidden">
          <KeysPage />
        </span>
        <ThemeButton />
      </span>
    </>
  );
});
