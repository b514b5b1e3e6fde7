// Sheets: what leaves laid on sheets of the materials, by a search or by hand.

import { useQuery } from "@tanstack/react-query";
import { LayoutGrid } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Problem, type Sheets } from "../api/answers";
import { api } from "../api/client";
import { forgetByHand, type Laid, layingOf, withoutSheets } from "../document/laying";
import type { Laying } from "../document/types";
import { edit, now, useDesign } from "../state/timeline";
import { sayUndoable } from "../state/undoable";
import { Button } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";
import { useRested } from "../ui/rested";
import { useRequestName, Waiting } from "../ui/Waiting";
import { LaySettings } from "./LaySettings";
import { PickedFields } from "./PickedFields";
import type { Picked } from "./picked";
import { SheetView } from "./SheetView";
import { useLaying } from "./useLaying";

export function SheetsButton({ of }: { of: Laid }) {
  const laid = layingOf(useDesign(), of).placed.length;
  const whose = of === "list" ? "All names laid" : "Pieces laid";
  const often = of === "list" ? "each as often as the list says" : "in as many copies as you need";
  return (
    <section aria-label="Sheets" className="mt-4 flex items-center gap-3">
      <p className="flex-1">
        <span className="font-semibold">Sheets</span>
        <span className="block text-soft text-xs">
          {laid > 0
            ? `${laid} ${laid === 1 ? "piece is" : "pieces are"} laid on sheets.`
            : `${whose} close on sheets of their materials, ${often}.`}
        </span>
      </p>
      <Dialog.Root>
        <Dialog.Trigger asChild>
          <Button>
            <LayoutGrid size={15} /> {laid > 0 ? "Look at the sheets" : "Lay on sheets"}
          </Button>
        </Dialog.Trigger>
        <Panel className="flex h-[92vh] w-[74rem] max-w-[96vw] flex-col p-5">
          <OnSheets of={of} />
        </Panel>
      </Dialog.Root>
    </section>
  );
}

function OnSheets({ of }: { of: Laid }) {
  const design = useDesign();
  const rested = useRested(design, 250);
  const [picked, setPicked] = useState<Picked | null>(null);
  const laying = layingOf(design, of);
  const name = useRequestName();
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: [
      "sheets",
      of,
      rested.art,
      rested.layers,
      rested.hand_over,
      rested.materials,
      of === "list" && [rested.names, rested.colour_ways],
    ],
    queryFn: ({ signal }) => api.sheets(rested, of, signal),
    placeholderData: (before) => before,
    gcTime: 30_000,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const { lay, busy, cancel, trouble } = useLaying(of, name);
  // An answer to an earlier question says nothing of what is laid now.
  const answered = data !== undefined && !isPlaceholderData && rested === design;
  const stale = answered && laying.placed.length > 0 && !data.current;
  const sheets = data ? grouped(laying, data, !stale) : [];
  const byHand = laying.placed.filter((one) => one.by_hand).length;
  return (
    <>
      <PanelTitle title="Sheets">
        {laying.placed.length > 0 && (
          <Button
            look="quiet"
            onClick={() => {
              edit((design) => withoutSheets(design, of));
              sayUndoable("Nothing is laid on sheets any more.", now());
            }}
          >
            Take off the sheets
          </Button>
        )}
      </PanelTitle>
      <div className="mt-3 flex min-h-0 flex-1 gap-5 max-md:flex-col max-md:overflow-y-auto">
        <div className="flex w-64 shrink-0 flex-col gap-3">
          <div className="slim -mr-2 flex min-h-0 flex-col gap-3 overflow-y-auto pr-2 max-md:overflow-visible">
            {data && <LaySettings of={of} laying={laying} sheets={data} />}
          </div>
          {data && picked && (
            <PickedFields of={of} laying={laying} sheets={data} picked={picked} pick={setPicked} />
          )}
          <Waiting what="Laying pieces" name={name} busy={busy} cancel={cancel} />
          <div className="flex gap-2">
            <Button look="main" disabled={!data || busy} onClick={() => void lay()}>
              <LayoutGrid size={16} /> {laying.placed.length > 0 ? "Lay out anew" : "Lay out"}
            </Button>
            <Button
              disabled={!data || busy}
              title="As many copies as go on the sheets that these take"
              onClick={() => void lay(true)}
            >
              Fill the sheets
            </Button>
          </div>
          {byHand > 0 && (
            <p className="text-soft text-xs">
              {byHand === 1 ? "One piece stays" : `${byHand} pieces stay`} where you put{" "}
              {byHand === 1 ? "it" : "them"}.{" "}
              <button
                type="button"
                className="underline underline-offset-2"
                onClick={() => edit((now) => forgetByHand(now, of))}
              >
                Let them move
              </button>
            </p>
          )}
          {(trouble || error) && (
            <p role="alert" className="text-alarm">
              {trouble || (error instanceof Problem ? error.sentence : "The sheets cannot be shown.")}
            </p>
          )}
          {laying.in_rows && !stale && (
            <p role="status" className="text-soft">
              The search broke off: pieces lie in plain rows. Other distances or fewer copies may lie closer.
            </p>
          )}
          {stale && <p className="text-alarm">Changed since it was laid: lay it out anew.</p>}
          {laying.placed.length > 0 && !stale && (
            <p className="text-soft text-xs">
              Drag a piece, or pick it and use the arrow keys; [ and ] turn it. Page down takes it to the next
              sheet. Drag on an empty place to keep that free.
            </p>
          )}
        </div>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reached by keyboard */}
        <section aria-label="The sheets" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
          {!data && !error && <p className="text-soft">Looking what there is to lay…</p>}
          {data && sheets.length === 0 && !stale && (
            <p className="text-soft">Nothing is laid yet. Set the sheets on the left, then lay out.</p>
          )}
          {sheets.map((sheet) => (
            <SheetView
              key={`${sheet.board}.${sheet.number}`}
              of={of}
              laying={laying}
              sheet={sheet}
              sheets={data as Sheets}
              picked={picked}
              pick={setPicked}
            />
          ))}
        </section>
      </div>
    </>
  );
}

export type SheetOf = { board: number; number: number; placed: number[] };

/** What lies on each sheet as the document has it now, where that is `current`, and all offcuts, also empty ones. */
function grouped(laying: Laying, sheets: Sheets, current: boolean): SheetOf[] {
  const found = new Map<string, SheetOf>();
  for (const [board, { material }] of sheets.boards.entries()) {
    const offcuts = laying.offcuts.filter((one) => one.material === material).length;
    for (let number = 0; number < offcuts; number++)
      found.set(`${board}.${number}`, { board, number, placed: [] });
  }
  for (const [index, one] of current ? laying.placed.entries() : []) {
    if (!sheets.boards[one.board]?.items[one.item]) continue;
    const key = `${one.board}.${one.sheet}`;
    const sheet = found.get(key) ?? { board: one.board, number: one.sheet, placed: [] };
    found.set(key, { ...sheet, placed: [...sheet.placed, index] });
  }
  return [...found.values()].sort((a, b) => a.board - b.board || a.number - b.number);
}
