// The hand-over: the files as pictures on the left; on the right what they are for, their formats, and where they go.

import { ChevronLeft, Download } from "lucide-react";
import { useMemo } from "react";
import { Link } from "react-router";
import type { Font, Material } from "../api/client";
import { api } from "../api/client";
import { Undoing } from "../bench/TopEdge";
import { useUndoKeys } from "../bench/useUndoKeys";
import { Conflict } from "../dialogs/Conflict";
import { boardsOf, isUsual, setDxfUnit, setMirror, toggleFiles } from "../document/handOver";
import { FindingsStrip } from "../findings/FindingsStrip";
import { Catalogue } from "../layers/catalogue";
import { SendButton } from "../machines/SendTo";
import { ProofForm } from "../round/ProofForm";
import { SheetsButton } from "../sheets/Sheets";
import { flush } from "../state/autosave";
import { useBuilding } from "../state/building";
import { useSaving } from "../state/saving";
import { edit, useDesign, usePart, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Failure } from "../ui/Failure";
import { saveAs } from "../ui/saveAs";
import { useAsked } from "../ui/useAsked";
import { useRequestName, Waiting } from "../ui/Waiting";
import { Boards } from "./Boards";
import { Costs } from "./Costs";
import { Files } from "./Files";
import { Fold } from "./Fold";
import { Formats } from "./Formats";
import { JobSheet } from "./JobSheet";
import { LiningUp } from "./LiningUp";
import { Mill } from "./Mill";
import { Paths } from "./Paths";
import { Preset } from "./Preset";
import { ProcessTable } from "./ProcessTable";
import { Solids } from "./Solids";

type Props = { fonts: Font[]; materials: Material[] };

export default function HandOverPage({ fonts, materials }: Props) {
  const building = useBuilding();
  const catalogue = useMemo(() => ({ fonts, materials }), [fonts, materials]);
  useUndoKeys();
  return (
    <Catalogue value={catalogue}>
      <div className="grid h-full grid-cols-[minmax(0,1fr)_30rem] grid-rows-[auto_auto_auto_minmax(0,1fr)] max-[900px]:grid-cols-[minmax(0,1fr)] max-[900px]:overflow-y-auto">
        <Head />
        <div className="col-span-full min-w-0">
          <Conflict />
          <Failure place="findings" className="border-line border-t" />
        </div>
        <div className="col-span-full min-w-0 border-line border-b">
          <FindingsStrip building={building} />
        </div>
        <main className="slim min-h-0 overflow-y-auto bg-bench p-5">
          <Files />
        </main>
        <aside
          aria-label="How it leaves"
          className="flex min-h-0 flex-col border-line border-l bg-sheet max-[900px]:border-l-0"
        >
          <div className="slim min-h-0 flex-1 overflow-y-auto px-5 pt-4">
            <Settings />
          </div>
          <Leave />
        </aside>
      </div>
    </Catalogue>
  );
}

function Head() {
  const id = useTimeline((state) => state.id);
  const name = usePart((design) => design.name);
  const saving = useSaving((state) => state.saving);
  return (
    <header className="col-span-full flex h-13 items-center gap-2 border-line border-b bg-sheet px-3">
      <Link
        to={`/design/${id}`}
        aria-label="Back to the bench"
        title="Back to the bench"
        className="inline-flex size-8 items-center justify-center rounded-lg text-soft hover:bg-bench hover:text-ink"
      >
        <ChevronLeft size={20} />
      </Link>
      <h1 className="min-w-0 truncate font-display font-semibold text-lg">Hand over: {name || "Untitled"}</h1>
      <span role="status" className="text-soft text-xs">
        {saving === "saved" ? "Saved" : "Saving…"}
      </span>
      <span className="flex-1" />
      <JobSheet />
      <ProofForm />
      <Undoing />
    </header>
  );
}

const KINDS = [
  ["boards", "Boards, as they are cut"],
  ["layers", "Each layer"],
  ["together", "All layers in register"],
] as const;

const MIRROR = [
  {
    options: [
      { value: "as_material" as const, text: "as the material asks" },
      { value: "all" as const, text: "all files" },
      { value: "none" as const, text: "no file" },
    ],
  },
];

const UNITS = [
  {
    options: [
      { value: "design" as const, text: "the design's unit" },
      { value: "mm" as const, text: "mm" },
      { value: "in" as const, text: "inches" },
    ],
  },
];

function Settings() {
  const design = useDesign();
  const { hand_over } = design;
  const boards = boardsOf(design);
  const staying = design.layers.length - boards.reduce((sum, board) => sum + board.layers.length, 0);
  const { lining_up, solids, overcut } = hand_over;
  const marks = { none: "no marks", crosses: "crosses", pins: "holes for pins" }[lining_up.marks];
  return (
    <>
      <Preset />
      <fieldset className="mt-2">
        <legend className="font-semibold">What leaves</legend>
        {KINDS.map(([kind, text]) => (
          <label key={kind} className="flex min-h-7 items-center gap-2">
            <input
              type="checkbox"
              className="size-4 accent-halo"
              checked={hand_over.files.includes(kind)}
              disabled={hand_over.files.length === 1 && hand_over.files.includes(kind)}
              onChange={() => edit((now) => toggleFiles(now, kind))}
            />
            {text}
          </label>
        ))}
      </fieldset>
      <Formats />
      {hand_over.formats.some((one) => one.startsWith("dxf")) && (
        <p className="mt-1 leading-8">
          DXF files are in{" "}
          <Choice
            inline
            label="Unit of DXF files"
            value={hand_over.dxf_unit}
            groups={UNITS}
            onChange={(unit) => edit((now) => setDxfUnit(now, unit))}
          />
        </p>
      )}
      <SheetsButton of="design" />
      <div className="mt-4">
        <Fold title="Lines and colours" state={isUsual(hand_over.table) ? "as usual" : "as set"}>
          <ProcessTable />
        </Fold>
        <Fold
          title="Boards"
          state={`${boards.length} ${boards.length === 1 ? "board" : "boards"}${staying > 0 ? `, ${staying} ${staying === 1 ? "layer stays" : "layers stay"} here` : ""}`}
        >
          <Boards boards={boards} />
        </Fold>
        <Fold
          title="Marks and frames"
          state={`${marks}, ${lining_up.frame > 0 ? "a weeding frame" : "no weeding frame"}`}
        >
          <LiningUp />
        </Fold>
        <Fold
          title="Mirror and overcut"
          state={`${MIRROR[0]?.options.find((one) => one.value === hand_over.mirror)?.text}${overcut > 0 ? ", with overcut" : ""}`}
        >
          <p className="leading-8">
            Mirrored:{" "}
            <Choice
              label="Files swapped left for right"
              inline
              value={hand_over.mirror}
              groups={MIRROR}
              onChange={(next) => edit((now) => setMirror(now, next))}
            />
          </p>
          <Paths />
        </Fold>
        <Fold title="Solids" state={solids.formats.length ? solids.formats.join(", ").toUpperCase() : "none"}>
          <Solids />
        </Fold>
        <Costs />
        {design.carving && (
          <Fold title="Mill" state={design.carving.gcode ? "G-code" : "no G-code"}>
            <Mill />
          </Fold>
        )}
      </div>
    </>
  );
}

/** Where it goes. */
function Leave() {
  const id = useTimeline((state) => state.id);
  const nothing = usePart((design) => boardsOf(design).length === 0);
  const request = useRequestName();
  const { ask, busy, trouble, setTrouble, cancel } = useAsked();
  const download = () =>
    ask(async (signal) => {
      await flush();
      if (useSaving.getState().saving !== "saved") {
        setTrouble("The last changes could not be saved. Settle that first.");
        return;
      }
      const made = await api.files(id, signal, request);
      saveAs(made.data, made.name);
    });
  return (
    <div className="border-line border-t px-5 py-3">
      {trouble && (
        <p role="alert" className="mb-2 text-alarm">
          {trouble}
        </p>
      )}
      <Waiting what="Making files" name={request} busy={busy} cancel={cancel} />
      <div className="flex flex-wrap gap-2">
        <Button look="main" onClick={() => void download()} disabled={busy || nothing}>
          <Download size={16} /> Download
        </Button>
        <SendButton disabled={nothing} />
      </div>
    </div>
  );
}
