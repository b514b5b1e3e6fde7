// A contact sheet: one number at several values, at its present one and without its step, side by side at one scale.

import { Dialog } from "radix-ui";
import { useEffect, useMemo, useState } from "react";
import { api, type BuildReply, Problem } from "../api/client";
import { round } from "../document/place";
import {
  changesLayers,
  sideBySide,
  type Variant,
  valuesBetween,
  withoutChangedStep,
} from "../document/range";
import type { Design } from "../document/types";
import { length, plain } from "../document/units";
import { isOpenCause } from "../findings/findings";
import { looksLike, useMaterials } from "../layers/catalogue";
import { type RangeToTry, showVariant, useRange } from "../state/range";
import { edit, useDesign, useTimeline, useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { Panel, PanelTitle } from "../ui/Panel";

const FEWEST = 3;
const MOST = 9;

/** How far apart (mm) copies lie that are taken side by side. */
const APART = 5;

/** What a value is called in whose place the step is left out. */
const WITHOUT = "Without";

type Tried = Variant & { present: boolean; reply: BuildReply | null; problem: string };

export function TryRange() {
  const range = useRange((state) => state.range);
  const close = () => useRange.setState({ range: null });
  return (
    <Dialog.Root open={range !== null} onOpenChange={(open) => !open && close()}>
      <Panel className="flex max-h-[90vh] w-[66rem] max-w-[96vw] flex-col p-6">
        {range && <Sheet range={range} close={close} />}
      </Panel>
    </Dialog.Root>
  );
}

function Sheet({ range, close }: { range: RangeToTry; close: () => void }) {
  const unit = useUnit();
  const { label, value, min, max } = range;
  const reach = Math.abs(value) > 1e-6 ? Math.abs(value) / 2 : 1;
  const within = (number: number) => Math.max(min, Math.min(max, number));
  const [from, setFrom] = useState(within(value - reach));
  const [to, setTo] = useState(within(value + reach));
  const [count, setCount] = useState(6);
  const design = useDesign();
  const variants = useMemo(() => {
    const values = valuesBetween(from, to, count, value).map((one) => ({
      title: range.unit ? length(one, unit) : plain(one, 3),
      design: one === round(value, 4) ? design : range.edits(one).change(design),
    }));
    const other = values.find((one) => one.design !== design);
    const without = other && withoutChangedStep(design, other.design);
    return without ? [{ title: WITHOUT, design: without }, ...values] : values;
  }, [range, design, from, to, count, value, unit]);
  const tried = useTried(design, variants);
  // Of values that look alike each is one.
  const [taken, setTaken] = useState<Design[]>([]);
  const several = variants.filter((one) => taken.includes(one.design));
  const boxes = tried.flatMap((one) => (one.reply?.bounds_mm ? [one.reply.bounds_mm] : []));
  const widest = Math.max(1, ...boxes.map(([x0 = 0, , x1 = 0]) => x1 - x0));
  const highest = Math.max(1, ...boxes.map(([, y0 = 0, , y1 = 0]) => y1 - y0));
  const common = { unit: range.unit ? unit : null, min, max } as const;
  const takes = changesLayers(design, variants);

  return (
    <>
      <PanelTitle title={`${label}: which value?`} />
      <p className="mt-1 mb-3 leading-8">
        From <NumberField inline label="From" value={from} onChange={setFrom} {...common} /> to{" "}
        <NumberField inline label="To" value={to} onChange={setTo} {...common} /> in{" "}
        <NumberField
          inline
          label="Number of values"
          value={count}
          unit={null}
          min={FEWEST}
          max={MOST}
          step={1}
          onChange={(number) => setCount(Math.round(number))}
        />{" "}
        steps. Pick one to see it on the stage.
      </p>
      <ul className="slim grid min-h-0 grid-cols-4 gap-3 overflow-y-auto max-[900px]:grid-cols-2">
        {tried.map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two values may look alike
          <li key={index} className="relative">
            <Button
              className="h-auto w-full flex-col items-stretch whitespace-normal p-2 text-left"
              aria-label={one.title === WITHOUT ? `Without ${label}` : `Set ${label} to ${one.title}`}
              onClick={() => {
                const compared = { label, before: design, variants };
                showVariant(compared, one.design);
                useRange.setState({ range: null, compared });
              }}
            >
              <Stack reply={one.reply} design={one.design} size={[widest, highest]} />
              <span className="font-display font-semibold text-base">
                {one.title}
                {one.present && <span className="ml-2 font-normal text-soft text-xs">as it is</span>}
              </span>
              <Measures tried={one} />
            </Button>
            {takes && (
              <input
                type="checkbox"
                aria-label={`Take ${one.title}`}
                className="absolute top-3 right-3 size-6 accent-halo"
                checked={taken.includes(one.design)}
                onChange={(event) =>
                  setTaken(
                    event.target.checked
                      ? [...taken, one.design]
                      : taken.filter((design) => design !== one.design),
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
      {several.length > 1 && (
        <div className="mt-3 flex justify-end">
          <Button
            look="main"
            onClick={() => {
              edit((before) => sideBySide(before, several, widest + APART));
              close();
            }}
          >
            Take {several.length} side by side
          </Button>
        </div>
      )}
    </>
  );
}

/** Builds of the variants, one after the other; those of values no longer asked for are given up. */
function useTried(present: Design, variants: Variant[]): Tried[] {
  const [answers, setAnswers] = useState(new Map<Design, BuildReply | string>());
  useEffect(() => {
    const stop = new AbortController();
    const all = async () => {
      for (const { design } of variants) {
        const answer = await api
          .build(
            {
              document: design,
              exact: false,
              have: [],
              parts_of: null,
              seams: false,
              checks: true,
              widths: true,
            },
            stop.signal,
          )
          .catch((error) => (error instanceof Problem ? error.sentence : Promise.reject(error)));
        if (stop.signal.aborted) return;
        setAnswers((before) => new Map(before).set(design, answer));
      }
    };
    void all();
    return () => stop.abort();
  }, [variants]);
  return variants.map(({ title, design }) => {
    const answer = answers.get(design);
    const failed = typeof answer === "string";
    return {
      title,
      design,
      present: design === present,
      reply: failed ? null : (answer ?? null),
      problem: failed ? answer : "",
    };
  });
}

function Stack({
  reply,
  design,
  size,
}: {
  reply: BuildReply | null;
  design: Design;
  size: [number, number];
}) {
  const materials = useMaterials();
  const [x0 = 0, y0 = 0, x1 = 0, y1 = 0] = reply?.bounds_mm ?? [];
  const [width, height] = size;
  const left = (x0 + x1) / 2 - width / 2;
  const top = -(y0 + y1) / 2 - height / 2;
  return (
    <svg
      aria-hidden="true"
      viewBox={`${left} ${top} ${width} ${height}`}
      className="mb-1 h-32 w-full rounded-lg bg-bench"
      fillRule="evenodd"
    >
      {design.layers
        .toReversed()
        .map(
          (layer) =>
            !layer.hidden && (
              <path
                key={layer.id}
                d={reply?.layers.find((one) => one.id === layer.id)?.path ?? ""}
                fill={layer.process === "guide" ? "none" : looksLike(materials, layer).colour}
                vectorEffect="non-scaling-stroke"
                strokeWidth={0.6}
                className="stroke-ink/45"
              />
            ),
        )}
    </svg>
  );
}

function Measures({ tried }: { tried: Tried }) {
  const unit = useUnit();
  if (tried.problem) return <span className="text-alarm text-xs">{tried.problem}</span>;
  if (!tried.reply) return <span className="whitespace-normal text-soft text-xs">Working it out…</span>;
  const open = tried.reply.causes.filter(isOpenCause).length;
  return (
    <>
      <span className={`text-xs ${open > 0 ? "text-alarm" : "text-soft"}`}>
        {open === 0 ? "No warnings" : open === 1 ? "1 warning" : `${open} warnings`}
      </span>
      {tried.reply.layers.map((layer) => {
        const name = tried.design.layers.find((one) => one.id === layer.id)?.name || layer.id;
        const pieces = `${layer.pieces} ${layer.pieces === 1 ? "piece" : "pieces"}`;
        const holes = `${layer.holes} ${layer.holes === 1 ? "hole" : "holes"}`;
        return (
          <span key={layer.id} className="whitespace-normal text-soft text-xs">
            {name}: {layer.pieces === 0 ? "nothing left" : `${pieces}, ${holes}`}
            {layer.narrowest && `, thinnest ${length(layer.narrowest.width_mm, unit)}`}
          </span>
        );
      })}
    </>
  );
}

/** Close the sheet when another design is opened. */
export function useForgetRange() {
  const id = useTimeline((state) => state.id);
  useEffect(() => {
    void id;
    return () => useRange.setState({ range: null, compared: null });
  }, [id]);
}
