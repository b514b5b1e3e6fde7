// The bottom edge: what there is to look at, one sentence at a time, with what mends it.

import { ChevronLeft, ChevronRight, ChevronsUpDown, CircleCheck, Undo2 } from "lucide-react";
import { Popover } from "radix-ui";
import { memo, useState } from "react";
import type { Finding } from "../api/client";
import { accepted, reopened } from "../document/accept";
import type { Building } from "../state/building";
import { select, selectLayer, useSelection } from "../state/selection";
import { edit, useDesign } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Menu, MenuItem } from "../ui/Menu";
import { FindingMark } from "./FindingMark";
import { extent, isOpen, keyOf, listed } from "./findings";
import { type Mending, useMending } from "./mending";

export const FindingsStrip = memo(function FindingsStrip({ building }: { building: Building }) {
  const looked = useSelection((state) => state.finding);
  const mending = useMending();
  const findings = listed(building.built?.findings ?? []);
  const index = Math.max(
    0,
    findings.findIndex((one) => keyOf(one) === looked),
  );
  const finding = findings[index];
  return (
    <section
      aria-label="Findings"
      aria-busy={!building.built?.checked}
      className="col-span-2 row-start-4 flex h-11 items-center gap-2 border-line border-t bg-sheet px-4"
    >
      {finding ? (
        <>
          <Counts findings={findings} />
          <IconButton
            label="Previous finding"
            disabled={findings.length < 2}
            onClick={() => lookAt(findings.at(index - 1))}
          >
            <ChevronLeft size={17} />
          </IconButton>
          <span className="shrink-0 text-soft text-xs tabular-nums">
            {index + 1} of {findings.length}
          </span>
          <IconButton
            label="Next finding"
            disabled={findings.length < 2}
            onClick={() => lookAt(findings[looked === null ? 0 : (index + 1) % findings.length])}
          >
            <ChevronRight size={17} />
          </IconButton>
          <button
            type="button"
            title={`${finding.sentence} Click to see the place.`}
            className="flex min-w-0 items-center gap-2 text-left hover:underline"
            onClick={() => lookAt(finding)}
          >
            <FindingMark finding={finding} />
            <span role="status" className="min-w-0 truncate">
              {finding.sentence}
            </span>
          </button>
          <span className="flex-1" />
          <Mends finding={finding} mending={mending} />
        </>
      ) : (
        <Nothing building={building} />
      )}
    </section>
  );
});

function lookAt(finding: Finding | undefined) {
  if (!finding) return;
  if (finding.layer) selectLayer(finding.layer);
  const spot = finding.at && { x: finding.at[0], y: finding.at[1], width: extent(finding) };
  select({ finding: keyOf(finding), ...(spot ? { spot } : {}) });
}

/** How much there is to look at in each layer; a click goes to the first of it. */
function Counts({ findings }: { findings: Finding[] }) {
  const { layers } = useDesign();
  const open = findings.filter(isOpen);
  const counted = layers
    .map((layer) => ({ layer, own: open.filter((finding) => finding.layer === layer.id) }))
    .filter(({ own }) => own.length > 0);
  const rest = open.filter((finding) => !layers.some((layer) => layer.id === finding.layer));
  if (open.length === 0)
    return (
      <span className="flex shrink-0 items-center gap-1.5 text-soft">
        <CircleCheck size={16} aria-hidden="true" className="text-halo" /> Nothing open
      </span>
    );
  return (
    <span className="flex max-w-[26rem] shrink-0 items-center gap-1 overflow-hidden">
      {counted.map(({ layer, own }) => (
        <button
          key={layer.id}
          type="button"
          title={`${own.length} to look at in ${layer.name.trim() || layer.id}`}
          className="flex items-center gap-1 rounded-lg border border-line px-2 py-0.5 text-xs hover:border-soft"
          onClick={() => lookAt(own[0])}
        >
          <span className="max-w-24 truncate">{layer.name.trim() || layer.id}</span>
          <span className="font-semibold text-alarm tabular-nums">{own.length}</span>
        </button>
      ))}
      {rest.length > 0 && <span className="px-1 font-semibold text-alarm text-xs">words {rest.length}</span>}
    </span>
  );
}

function Mends({ finding, mending }: { finding: Finding; mending: Mending }) {
  const { run, doing, cancel } = mending;
  if (doing)
    return (
      <>
        <span role="status" className="shrink-0 text-soft">
          {doing}
        </span>
        <Button onClick={cancel}>Cancel</Button>
      </>
    );
  if (finding.accepted !== null)
    return (
      <>
        <span className="max-w-60 truncate text-soft text-xs">
          let be{finding.accepted && `: ${finding.accepted}`}
        </span>
        <Button look="quiet" onClick={() => edit((design) => reopened(design, finding))}>
          <Undo2 size={15} /> Ask again
        </Button>
      </>
    );
  const [first, ...others] = finding.mends;
  return (
    <>
      {first && <Button onClick={() => run(first)}>{first.title}</Button>}
      {others.length > 0 && (
        <Menu
          trigger={
            <IconButton label="Other ways to mend it">
              <ChevronsUpDown size={16} />
            </IconButton>
          }
        >
          {others.map((mend) => (
            <MenuItem key={mend.title} onSelect={() => run(mend)}>
              {mend.title}
            </MenuItem>
          ))}
        </Menu>
      )}
      {finding.severity === "warning" && <LetBe key={keyOf(finding)} finding={finding} />}
    </>
  );
}

/** Accept a finding, with a note for later. */
function LetBe({ finding }: { finding: Finding }) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState("");
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button look="quiet">Let it be…</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="end"
          sideOffset={8}
          collisionPadding={8}
          aria-label="Let the finding be"
          className="z-50 w-80 rounded-xl border border-line bg-sheet p-3 shadow-black/15 shadow-xl"
        >
          <form
            className="flex flex-col gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              setOpen(false);
              edit((design) => accepted(design, finding, note.trim()));
            }}
          >
            <label className="flex flex-col gap-1">
              <span className="text-soft text-xs">Why it may stay, if you like</span>
              <input
                value={note}
                maxLength={500}
                className="h-8 rounded-lg border border-line bg-paper px-2"
                onChange={(event) => setNote(event.target.value)}
              />
            </label>
            <p className="text-soft text-xs">It is asked about again once the place changes.</p>
            <Button look="main" type="submit">
              Let it be
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Nothing({ building }: { building: Building }) {
  const design = useDesign();
  const built = building.built;
  const pieces = built?.reply.layers.reduce((sum, layer) => sum + layer.pieces, 0) ?? 0;
  const layers = design.layers.length;
  return (
    <p role="status" className="flex items-center gap-2 text-soft">
      <CircleCheck size={17} aria-hidden="true" className="text-halo" />
      {!built
        ? "Working out the outlines…"
        : !built.checked
          ? "Checking…"
          : `Nothing to look at: ${layers} ${layers === 1 ? "layer" : "layers"}, ${pieces} ${pieces === 1 ? "piece" : "pieces"} in all.`}
    </p>
  );
}
