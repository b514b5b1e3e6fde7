// One design, many names: the list, how words are made to fit, every row as it comes out, and what leaves.

import { FileUp } from "lucide-react";
import { type ChangeEvent, useRef, useState } from "react";
import { api } from "../api/client";
import { NAMES } from "../api/facts";
import { asText, namesOf, patchNames, withoutNames } from "../document/nameList";
import { readable } from "../document/readable";
import { SheetsButton } from "../sheets/Sheets";
import { edit, now, useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { attempt, Failure } from "../ui/Failure";
import { Fits } from "./Fits";
import { Packs } from "./Packs";
import { Table } from "./Table";
import { useWall } from "./useWall";
import { Wall } from "./Wall";

type Read = { rows: string[][]; titled: boolean; told: string[] };

/** Puts what was read in place of the list, the columns for what they are most likely for. */
async function take(read: Read): Promise<void> {
  const titles = read.titled ? (read.rows[0] ?? []) : [];
  const rows = read.titled ? read.rows.slice(1) : read.rows;
  const before = namesOf(now()).columns;
  const columns =
    before.length === rows[0]?.length && titles.length === 0
      ? before
      : await api.listColumns({ document: { ...now(), names: null }, titles, rows: rows.slice(0, 100) });
  edit((design) => patchNames(design, { rows, columns }));
}

export default function NameList() {
  const design = useDesign();
  const names = namesOf(design);
  const [told, setTold] = useState<string[]>([]);
  const [titles, setTitles] = useState<string[]>([]);
  const [asLines, setAsLines] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const wall = useWall(design);
  const empty = names.rows.length === 0;

  const reading = (read: () => Promise<Read>) => {
    setTold([]);
    setTitles([]);
    return attempt("names", async () => {
      const found = await read();
      await take(found);
      setTold(found.told);
      if (found.titled) setTitles(found.rows[0] ?? []);
      setAsLines(false);
    });
  };
  const untitled = () => {
    edit((design) => {
      const { rows, columns } = namesOf(design);
      return patchNames(design, {
        rows: [titles, ...rows],
        columns: columns.map((one) => ({ ...one, title: "" })),
      });
    });
    setTitles([]);
  };
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const [one] = event.target.files ?? [];
    if (one) void reading(() => api.readTable(one));
    event.target.value = "";
  };
  return (
    <div className="mt-2 flex flex-col gap-3">
      <p className="text-soft">
        {empty
          ? "Type or paste one name a line, or columns out of a table; or open a CSV, XLSX or ODS file. Every row becomes this design with its own words."
          : "Every row becomes this design with its own words. Names below are in the order of how much there is to look at."}
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
        {!empty && (
          <>
            <Button look="quiet" aria-pressed={asLines} onClick={() => setAsLines(!asLines)}>
              {asLines ? "As a table" : "As lines"}
            </Button>
            <Button look="quiet" onClick={() => edit(withoutNames)}>
              Clear the list
            </Button>
          </>
        )}
        <span className="flex-1" />
        <Packs design={design} />
      </div>
      {empty || asLines ? (
        <Lines
          key={asText(names)}
          text={asText(names)}
          onText={(text) => void reading(() => api.readList(text))}
        />
      ) : (
        <Table design={design} />
      )}
      <Failure place="names" />
      {titles.length > 0 && !empty && (
        <p role="status">
          The first row was taken for titles: <bdi>{titles.filter(Boolean).join(", ")}</bdi>.{" "}
          <Button look="quiet" className="h-7 px-2" onClick={untitled}>
            It is a row like the others
          </Button>
        </p>
      )}
      {told.map((sentence) => (
        <p key={sentence} className="text-alarm">
          {sentence}
        </p>
      ))}
      {!empty && (
        <>
          <Fits design={design} />
          <Called pattern={names.file} />
          <SheetsButton of="list" />
          <Wall wall={wall} design={design} />
        </>
      )}
    </div>
  );
}

/** What each row's files are called. */
function Called({ pattern }: { pattern: string }) {
  return (
    <p className="leading-8">
      The folder of each is called{" "}
      <input
        key={pattern}
        aria-label="What the folder of each is called"
        defaultValue={pattern}
        maxLength={80}
        spellCheck={false}
        className="h-7 w-44 rounded-lg border border-line bg-paper px-2"
        onBlur={({ target }) => {
          const file = readable(target.value).trim() || NAMES.file;
          target.value = file;
          if (file !== pattern) edit((design) => patchNames(design, { file }));
        }}
        onKeyDown={({ key, currentTarget }) => key === "Enter" && currentTarget.blur()}
      />
      , where {"{n}"} is the row’s number and {"{words}"} its words.
    </p>
  );
}

/** The rows as text: taken over when the field is left. */
function Lines({ text, onText }: { text: string; onText: (text: string) => void }) {
  const [typed, setTyped] = useState(text);
  return (
    <textarea
      aria-label="The list, a row a line"
      value={typed}
      rows={8}
      spellCheck={false}
      placeholder={"Fenna\nBram\nOttoline"}
      className="w-full rounded-lg border border-line bg-paper px-2 py-1 font-mono [unicode-bidi:plaintext]"
      onChange={({ target }) => setTyped(target.value)}
      onPaste={(event) => {
        const pasted = event.clipboardData.getData("text/plain");
        if (typed.trim() || !pasted.trim().includes("\n")) return;
        // A whole list needs no leaving of the field; and browsers put thousands of lines into one slowly.
        event.preventDefault();
        onText(pasted);
      }}
      onBlur={() => {
        if (typed === text) return;
        if (typed.trim()) onText(typed);
        else edit(withoutNames);
      }}
    />
  );
}
