// The list as a table that is edited in place: what each column is for over it, a row for each piece.

import { Plus, X } from "lucide-react";
import { type ClipboardEvent, type KeyboardEvent, memo, useRef } from "react";
import { api } from "../api/client";
import {
  addColumn,
  blocksOf,
  dropRow,
  MOST_ROWS,
  namesOf,
  patchColumn,
  setCells,
} from "../document/nameList";
import { readable } from "../document/readable";
import type { Column, Design } from "../document/types";
import { edit } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { whenEscaped } from "../ui/drag";
import { attempt, fail } from "../ui/Failure";

const MOST_LETTERS = 300;
const MOST_COLUMNS = 20;

export function Table({ design }: { design: Design }) {
  const { columns, rows } = namesOf(design);
  const table = useRef<HTMLTableElement>(null);
  const go = (row: number, column: number) =>
    requestAnimationFrame(() =>
      table.current?.querySelector<HTMLInputElement>(`[data-cell="${row}.${column}"]`)?.focus(),
    );
  const keys = (event: KeyboardEvent<HTMLTableElement>) => {
    const from = event.target as HTMLElement;
    const [row = 0, column = 0] = (from.dataset.cell ?? "").split(".").map(Number);
    if (!from.dataset.cell || event.nativeEvent.isComposing) return;
    const next = event.key === "Enter" || event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (next === 0) return;
    event.preventDefault();
    from.blur();
    if (event.key === "Enter" && row === rows.length - 1) edit((now) => setCells(now, row + 1, 0, [[""]]));
    go(Math.max(0, row + next), column);
  };
  return (
    <div className="slim max-h-60 overflow-y-auto rounded-lg border border-line">
      <table ref={table} aria-label="The list" className="w-full border-collapse" onKeyDown={keys}>
        <thead className="sticky top-0 z-10 bg-sheet">
          <tr className="border-line border-b text-left">
            <td className="w-10" />
            {columns.map((column, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns have no names, only their place
              <th key={index} scope="col" className="px-2 py-1 font-normal">
                <span className="text-soft">{column.title || `Column ${index + 1}`}: </span>
                <Use design={design} column={column} index={index} />
              </th>
            ))}
            <td className="w-20 text-right">
              <IconButton
                label="Another column"
                className="size-7"
                disabled={columns.length >= MOST_COLUMNS}
                onClick={() => edit(addColumn)}
              >
                <Plus size={15} />
              </IconButton>
            </td>
          </tr>
        </thead>
        <tbody>
          {rows.map((cells, row) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the list
            <Row key={row} row={row} cells={cells} count={columns.length} />
          ))}
        </tbody>
      </table>
      <Button
        look="quiet"
        className="m-1 h-7"
        disabled={rows.length >= MOST_ROWS}
        onClick={() => {
          edit((now) => setCells(now, rows.length, 0, [[""]]));
          go(rows.length, 0);
        }}
      >
        <Plus size={15} /> Add a row
      </Button>
    </div>
  );
}

type RowProps = { row: number; cells: string[]; count: number };

const Row = memo(function Row({ row, cells, count }: RowProps) {
  return (
    <tr className="border-line border-b [content-visibility:auto] [contain-intrinsic-size:auto_2rem]">
      <td className="px-2 text-right text-soft tabular-nums">{row + 1}</td>
      {Array.from({ length: count }, (_, column) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
        <td key={column}>
          <Cell key={cells[column] ?? ""} row={row} column={column} text={cells[column] ?? ""} />
        </td>
      ))}
      <td className="text-right">
        <IconButton
          label={`Take row ${row + 1} out`}
          className="size-7"
          onClick={() => edit((now) => dropRow(now, row))}
        >
          <X size={14} />
        </IconButton>
      </td>
    </tr>
  );
});

/** A cell: taken over when it is left; what is pasted goes on to the right and down. */
function Cell({ row, column, text }: { row: number; column: number; text: string }) {
  const paste = async (event: ClipboardEvent<HTMLInputElement>) => {
    const pasted = event.clipboardData.getData("text/plain").trim();
    if (!/[\t\n]/.test(pasted)) return;
    event.preventDefault();
    const read = await attempt("names", () => api.readList(pasted));
    if (!read) return;
    if (row + read.rows.length > MOST_ROWS)
      fail("names", `A list has ${MOST_ROWS} rows at most: the last ones are left out.`);
    edit((now) => setCells(now, row, column, read.rows));
  };
  return (
    <input
      data-cell={`${row}.${column}`}
      aria-label={`Row ${row + 1}, column ${column + 1}`}
      defaultValue={text}
      maxLength={MOST_LETTERS}
      dir="auto"
      spellCheck={false}
      className="h-8 w-full bg-transparent px-2 focus:bg-paper"
      onPaste={(event) => void paste(event)}
      onFocus={({ currentTarget: cell }) => {
        const giveUp = () => {
          if (cell.value === text) return false;
          cell.value = text;
        };
        cell.addEventListener("blur", whenEscaped(giveUp), { once: true });
      }}
      onBlur={({ target }) => {
        const typed = readable(target.value);
        if (typed !== text) edit((now) => setCells(now, row, column, [[typed]]));
      }}
    />
  );
}

/** What a column is for. */
function Use({ design, column, index }: { design: Design; column: Column; index: number }) {
  const blocks = blocksOf(design);
  const called = (text: string) => `“${text.slice(0, 20)}”`;
  const groups = [
    { options: blocks.map((one) => ({ value: `words.${one.id}`, text: `the words ${called(one.text)}` })) },
    { options: blocks.map((one) => ({ value: `size.${one.id}`, text: `the size of ${called(one.text)}` })) },
    {
      options: design.layers.map((one) => ({
        value: `material.${one.id}`,
        text: `the material of ${called(one.name.trim() || one.id)}`,
      })),
    },
    {
      options: [
        { value: "colour_way", text: "the colour way" },
        { value: "copies", text: "how many pieces" },
        { value: "nothing", text: "nothing" },
      ],
    },
  ];
  return (
    <Choice
      inline
      label={`What column ${index + 1} is for`}
      value={column.art || column.layer ? `${column.use}.${column.art ?? column.layer}` : column.use}
      groups={groups}
      onChange={(value) => edit((now) => patchColumn(now, index, purposeOf(value)))}
    />
  );
}

function purposeOf(value: string): Omit<Column, "title"> {
  const dot = value.indexOf(".");
  const use = (dot < 0 ? value : value.slice(0, dot)) as Column["use"];
  const id = dot < 0 ? null : value.slice(dot + 1);
  return { use, art: use === "material" ? null : id, layer: use === "material" ? id : null };
}
