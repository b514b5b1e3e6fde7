// One design, many names: the list, what its columns are for, how words are made to fit, and every row as it comes out.

import { Download, FileUp, Users } from "lucide-react";
import { Dialog } from "radix-ui";
import { type ChangeEvent, useRef, useState } from "react";
import { Problem } from "../api/answers";
import { api } from "../api/client";
import {
  asText,
  blocksOf,
  fitOf,
  namesOf,
  patchColumn,
  patchFit,
  patchNames,
  withoutNames,
} from "../document/nameList";
import type { Column, Design, Fit } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edit, edits, now, useDesign, useUnit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Panel, PanelTitle } from "../ui/Panel";
import { useRequestName, Waiting } from "../ui/Waiting";
import { useWall } from "./useWall";
import { Wall } from "./Wall";

export function NamesButton() {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <IconButton label="A list of names: one piece for each">
          <Users size={16} />
        </IconButton>
      </Dialog.Trigger>
      <Panel className="slim max-h-[92vh] w-[62rem] max-w-[96vw] overflow-y-auto p-6">
        <PanelTitle title="A list of names" />
        <List />
      </Panel>
    </Dialog.Root>
  );
}

/** Puts what was read in place of the list, the columns for what they are most likely for. */
async function take(read: { rows: string[][]; titled: boolean }): Promise<void> {
  const titles = read.titled ? (read.rows[0] ?? []) : [];
  const rows = read.titled ? read.rows.slice(1) : read.rows;
  const before = namesOf(now()).columns;
  const columns =
    before.length === rows[0]?.length && titles.length === 0
      ? before
      : await api.listColumns({ document: { ...now(), names: null }, titles, rows: rows.slice(0, 100) });
  edit((design) => patchNames(design, { rows, columns }));
}

function List() {
  const design = useDesign();
  const names = namesOf(design);
  const [told, setTold] = useState<string[]>([]);
  const [trouble, setTrouble] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const wall = useWall(design);

  const reading = async (read: Promise<{ rows: string[][]; titled: boolean; told: string[] }>) => {
    setTrouble("");
    setTold([]);
    try {
      const found = await read;
      await take(found);
      setTold(found.told);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    }
  };
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const [one] = event.target.files ?? [];
    if (one) void reading(api.readTable(one));
    event.target.value = "";
  };
  return (
    <div className="mt-2 flex flex-col gap-3">
      <p className="text-soft">
        Type or paste one name a line, or columns out of a table; or open a CSV, XLSX or ODS file. Every row
        becomes this design with its own words.
      </p>
      <div className="flex flex-wrap items-center gap-2">
        <Button onClick={() => file.current?.click()}>
          <FileUp size={15} /> Open a table…
        </Button>
        <input
          ref={file}
          type="file"
          accept=".csv,.tsv,.txt,.xlsx,.xls,.ods"
          aria-label="Table file"
          className="sr-only"
          tabIndex={-1}
          onChange={chosen}
        />
        {names.rows.length > 0 && (
          <Button look="quiet" onClick={() => edit(withoutNames)}>
            Clear the list
          </Button>
        )}
        <Packs design={design} />
      </div>
      <Rows key={asText(names)} text={asText(names)} onText={(text) => void reading(api.readList(text))} />
      {trouble && (
        <p role="alert" className="text-alarm">
          {trouble}
        </p>
      )}
      {told.map((sentence) => (
        <p key={sentence} className="text-alarm">
          {sentence}
        </p>
      ))}
      {names.rows.length > 0 && (
        <>
          <Columns design={design} />
          <Fits design={design} />
          <Wall wall={wall} names={names} />
        </>
      )}
    </div>
  );
}

/** The rows as text: taken over when the field is left. */
function Rows({ text, onText }: { text: string; onText: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  return (
    <textarea
      aria-label="The list, a row a line"
      value={typed}
      rows={6}
      spellCheck={false}
      placeholder={"Fenna\nBram\nOttoline"}
      className="w-full rounded-lg border border-line bg-paper px-2 py-1 font-mono"
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => {
        if (typed === text) return;
        if (typed.trim()) onText(typed);
        else edit(withoutNames);
      }}
    />
  );
}

function Columns({ design }: { design: Design }) {
  const blocks = blocksOf(design);
  const uses = [
    ...blocks.map((one) => ({ value: `words.${one.id}`, text: `the words “${one.text.slice(0, 20)}”` })),
    { value: "colour_way", text: "the colour way" },
    { value: "copies", text: "how many pieces" },
    { value: "nothing", text: "nothing" },
  ];
  const chosenOf = (column: Column) => (column.use === "words" ? `words.${column.art}` : column.use);
  const choose = (index: number, value: string) =>
    edit((now) =>
      patchColumn(
        now,
        index,
        value.startsWith("words.")
          ? { use: "words", art: value.slice(6) }
          : { use: value as Column["use"], art: null },
      ),
    );
  return (
    <p className="leading-8">
      {namesOf(design).columns.map((column, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: columns have no names, only their place
        <span key={index}>
          {index > 0 && ", "}
          {column.title ? `“${column.title}”` : `column ${index + 1}`} is{" "}
          <Choice
            inline
            label={`What column ${index + 1} is for`}
            value={chosenOf(column)}
            groups={[{ options: uses }]}
            onChange={(value) => choose(index, value)}
          />
        </span>
      ))}
      .
    </p>
  );
}

const RULES = [
  { value: "keep" as const, text: "keep their size" },
  { value: "shrink" as const, text: "get smaller" },
  { value: "stretch" as const, text: "are stretched" },
  { value: "break" as const, text: "stand on several lines" },
];

function Fits({ design }: { design: Design }) {
  const unit = useUnit();
  const used = new Set(namesOf(design).columns.map((one) => one.art));
  const set = (art: string, change: Partial<Fit>) => edit((now) => patchFit(now, art, change));
  return blocksOf(design)
    .filter((one) => used.has(one.id))
    .map(({ id, text }) => {
      const fit = fitOf(design, id);
      return (
        <p key={id} className="leading-8">
          In place of “{text.slice(0, 20)}”, words that are {fit.rule === "stretch" ? "not" : "over"}{" "}
          <EditNumber
            inline
            label={`Width of “${text.slice(0, 20)}”`}
            value={fit.width}
            unit={unit}
            above={0}
            max={1000}
            edits={(width) => edits((now) => patchFit(now, id, { width }), `fit.${id}`)}
          />{" "}
          wide{" "}
          <Choice
            inline
            label={`How words for “${text.slice(0, 20)}” are made to fit`}
            value={fit.rule}
            groups={[{ options: RULES }]}
            onChange={(rule) => set(id, { rule })}
          />
          {fit.rule === "stretch" && (
            <>
              {" "}
              to{" "}
              <EditNumber
                inline
                label={`Narrowest of “${text.slice(0, 20)}”`}
                value={fit.least}
                unit={null}
                step={0.05}
                min={0.1}
                max={1}
                edits={(least) => edits((now) => patchFit(now, id, { least }), `fit.${id}.least`)}
              />{" "}
              of their width at the narrowest
            </>
          )}
          .
        </p>
      );
    });
}

/** All packs at once; it takes a while, and can be given up. */
function Packs({ design }: { design: Design }) {
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const gone = useRef<AbortController | null>(null);
  const name = useRequestName();
  const count = namesOf(design).rows.length;
  const download = async () => {
    const asked = new AbortController();
    gone.current = asked;
    setBusy(true);
    setTrouble("");
    try {
      const data = await api.listPacks(design, asked.signal, name);
      const link = document.createElement("a");
      link.href = URL.createObjectURL(data);
      link.download = `${design.name || "design"} ${count} packs.zip`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    } catch (error) {
      if (asked.signal.aborted) return;
      if (!(error instanceof Problem)) throw error;
      setTrouble(error.sentence);
    } finally {
      setBusy(false);
    }
  };
  if (count === 0) return null;
  return (
    <>
      <Button look="main" disabled={busy} onClick={() => void download()}>
        <Download size={16} /> Download all {count} packs (zip)
      </Button>
      <Waiting what="Making the packs" name={name} busy={busy} cancel={() => gone.current?.abort()} />
      {trouble && (
        <span role="alert" className="text-alarm">
          {trouble}
        </span>
      )}
    </>
  );
}
