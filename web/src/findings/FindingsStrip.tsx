// The bottom edge: what there is to look at, one cause at a time, with its places and what mends them.

import { ChevronLeft, ChevronRight, ChevronsUpDown, CircleCheck, Undo2 } from "lucide-react";
import { Popover } from "radix-ui";
import { memo, useState } from "react";
import type { Cause, Finding, Mend } from "../api/answers";
import { accepted, acceptedAll, reopened } from "../document/accept";
import { readable } from "../document/readable";
import type { Building } from "../state/building";
import type { Built } from "../state/buildLoop";
import { select, selectLayer, useSelection } from "../state/selection";
import { edit, useDesign } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";
import { Menu, MenuItem } from "../ui/Menu";
import { FindingMark } from "./FindingMark";
import { extent, isOpenCause, keyOf, type Told, told } from "./findings";
import { type Mending, useMending } from "./mending";
import { minding, useOutlook } from "./outlook";

export const FindingsStrip = memo(function FindingsStrip({ building }: { building: Building }) {
  const looked = useSelection((state) => state.finding);
  const mending = useMending();
  const design = useDesign();
  const every = told(building.built);
  const all = every.flatMap((one) => one.places.map((place) => ({ told: one, place })));
  const at = Math.max(
    0,
    all.findIndex(({ place }) => keyOf(place) === looked),
  );
  const now = all[at]?.told;
  // Until the last result is there, what was found in an earlier document is no advice.
  const current = building.built?.document === design && building.built.checked;
  const settled = current && !building.busy;
  return (
    <section
      aria-label="Findings"
      aria-busy={!settled}
      data-build={building.built?.count}
      data-current={current}
      className="flex min-h-11 flex-wrap items-center gap-2 border-line border-t bg-sheet px-4 max-lg:gap-1 max-lg:py-1.5 lg:flex-nowrap max-sm:px-2"
    >
      {now ? (
        <>
          <Counts every={every} />
          <Stepper at={at} of={all.length} started={looked !== null} go={(k) => lookAt(all[k]?.place)} />
          <button
            type="button"
            title={`${now.cause.sentence} Click to see the place.`}
            disabled={!current}
            className="flex min-w-0 items-center gap-2 text-left hover:underline disabled:opacity-45 max-lg:order-last max-lg:basis-full"
            onClick={() => lookAt(all[at]?.place)}
          >
            <FindingMark finding={now.places[0] as Finding} />
            <span role="status" className="min-w-0 truncate">
              {now.cause.sentence}
            </span>
          </button>
          {!settled && <span className="shrink-0 text-soft text-xs">Checking…</span>}
          <span className="flex-1" />
          <fieldset disabled={!current && !mending.doing} className="contents">
            <Mends key={now.cause.id} built={building.built} told={now} looked={looked} mending={mending} />
          </fieldset>
        </>
      ) : (
        <Nothing built={building.built} settled={settled} />
      )}
    </section>
  );
});

type StepperProps = { at: number; of: number; started: boolean; go: (k: number) => void };

/** Place by place, across findings, round and round. */
function Stepper({ at, of, started, go }: StepperProps) {
  return (
    <>
      <IconButton label="Previous place" disabled={of < 2} onClick={() => go((at + of - 1) % of)}>
        <ChevronLeft size={17} />
      </IconButton>
      <span className="shrink-0 text-soft text-xs tabular-nums">
        {at + 1} of {of}
      </span>
      <IconButton label="Next place" disabled={of < 2} onClick={() => go(started ? (at + 1) % of : 0)}>
        <ChevronRight size={17} />
      </IconButton>
    </>
  );
}

function lookAt(finding: Finding | undefined) {
  if (!finding) return;
  if (finding.layer) selectLayer(finding.layer);
  const spot = finding.at && { x: finding.at[0], y: finding.at[1], width: extent(finding) };
  select({ finding: keyOf(finding), ...(spot ? { spot } : {}) });
}

/** How much there is to look at in each layer; a click goes to the first of it. */
function Counts({ every }: { every: Told[] }) {
  const { layers } = useDesign();
  const open = every.filter(({ cause }) => isOpenCause(cause));
  const counted = layers
    .map((layer) => ({ layer, own: open.filter(({ cause }) => cause.layer === layer.id) }))
    .filter(({ own }) => own.length > 0);
  const rest = open.filter(({ cause }) => !layers.some((layer) => layer.id === cause.layer));
  if (open.length === 0)
    return (
      <span className="flex shrink-0 items-center gap-1.5 text-soft">
        <CircleCheck size={16} aria-hidden="true" className="text-halo" /> Nothing open
      </span>
    );
  return (
    <span className="flex max-w-[26rem] shrink-0 items-center gap-1 overflow-hidden max-lg:hidden">
      {counted.map(({ layer, own }) => (
        <button
          key={layer.id}
          type="button"
          title={`${own.length} to look at in ${layer.name.trim() || layer.id}`}
          className="flex items-center gap-1 rounded-lg border border-line px-2 py-0.5 text-xs hover:border-soft"
          onClick={() => lookAt(own[0]?.places[0])}
        >
          <span className="max-w-24 truncate">{layer.name.trim() || layer.id}</span>
          <span className="font-semibold text-alarm tabular-nums">{own.length}</span>
        </button>
      ))}
      {rest.length > 0 && <span className="px-1 font-semibold text-alarm text-xs">words {rest.length}</span>}
    </span>
  );
}

type MendsProps = { built: Built | null; told: Told; looked: string | null; mending: Mending };

/** What mends all places of a cause, and what mends the one that is looked at. */
function Mends({ built, told: { cause, places }, looked, mending }: MendsProps) {
  const { run, doing, cancel } = mending;
  const finding = places.find((one) => keyOf(one) === looked) ?? (places[0] as Finding);
  const here = places.length > 1 ? finding.mends.filter((mend) => mend.here) : [];
  const [first, ...others] = cause.mends.length > 0 ? cause.mends : here;
  const [near, setNear] = useState(false);
  const wanted = near || places.some((one) => keyOf(one) === looked);
  const outlook = useOutlook(built, cause, (wanted && !cause.accepted && first) || null);
  const minds = outlook && minding(outlook);
  if (doing)
    return (
      <>
        <span role="status" className="shrink-0 text-soft">
          {doing}
        </span>
        <Button onClick={cancel}>Cancel</Button>
      </>
    );
  if (cause.accepted)
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
  const more = [...others, ...here.filter((mend) => mend !== first)];
  return (
    <>
      {first && (
        <>
          {minds && (
            <span
              title={minds.full}
              className={`max-w-44 truncate text-xs ${outlook?.left || outlook?.brings.length ? "text-alarm" : "text-soft"}`}
            >
              {minds.short}
            </span>
          )}
          <Button
            title={minds?.full}
            onPointerEnter={() => setNear(true)}
            onFocus={() => setNear(true)}
            onClick={() => run(first, cause.id)}
          >
            {first.title}
          </Button>
        </>
      )}
      {more.length > 0 && (
        <Menu
          trigger={
            <IconButton label="Other ways to mend it">
              <ChevronsUpDown size={16} />
            </IconButton>
          }
        >
          {more.map((mend) => (
            <MendItem key={mend.title} built={built} cause={cause} mend={mend} mending={mending} />
          ))}
        </Menu>
      )}
      {cause.severity === "warning" && <LetBe key={keyOf(finding)} finding={finding} count={places.length} />}
    </>
  );
}

type MendItemProps = { built: Built | null; cause: Cause; mend: Mend; mending: Mending };

/** A mend in the menu, with what there is to mind about it once it is pointed at. */
function MendItem({ built, cause, mend, mending }: MendItemProps) {
  const [near, setNear] = useState(false);
  const outlook = useOutlook(built, cause, near ? mend : null);
  const minds = outlook && minding(outlook);
  return (
    <MenuItem
      onNear={() => setNear(true)}
      onSelect={() => mending.run(mend, mend.here ? undefined : cause.id)}
    >
      <span>
        {mend.title}
        {minds && <span className="block max-w-80 text-soft text-xs">{minds.full}</span>}
      </span>
    </MenuItem>
  );
}

/** Accept a finding, or all with its cause, with a note for later. */
function LetBe({ finding, count }: { finding: Finding; count: number }) {
  const [open, setOpen] = useState(false);
  const [all, setAll] = useState(count > 1);
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
              const done = all && count > 1 ? acceptedAll : accepted;
              edit((design) => done(design, finding, note.trim()));
            }}
          >
            <label className="flex flex-col gap-1">
              <span className="text-soft text-xs">Why it may stay, if you like</span>
              <input
                value={note}
                maxLength={500}
                className="h-8 rounded-lg border border-line bg-paper px-2"
                onChange={(event) => setNote(readable(event.target.value))}
              />
            </label>
            {count > 1 && (
              <label className="flex items-center gap-2">
                <input type="checkbox" checked={all} onChange={(event) => setAll(event.target.checked)} />
                In all {count} places
              </label>
            )}
            <p className="text-soft text-xs">
              {all && count > 1
                ? "None of this kind is asked about again in this layer, until you ask for it."
                : "It is asked about again once the place changes."}
            </p>
            <Button look="main" type="submit">
              Let it be
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Nothing({ built, settled }: { built: Built | null; settled: boolean }) {
  const design = useDesign();
  const pieces = built?.reply.layers.reduce((sum, layer) => sum + layer.pieces, 0) ?? 0;
  const layers = design.layers.length;
  return (
    <p role="status" className="flex items-center gap-2 text-soft">
      <CircleCheck size={17} aria-hidden="true" className="text-halo" />
      {!settled
        ? "Checking…"
        : `Nothing to look at: ${layers} ${layers === 1 ? "layer" : "layers"}, ${pieces} ${pieces === 1 ? "piece" : "pieces"} in all.`}
    </p>
  );
}
