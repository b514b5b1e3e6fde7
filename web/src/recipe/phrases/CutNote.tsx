// What cutting away left, and the search for a place where it leaves no slivers.

import { LocateFixed } from "lucide-react";
import { create } from "zustand";
import { LEAST_MM } from "../../fields/limits";
import { useMending } from "../../findings/mending";
import { answerFor, seek, useSeeking } from "../../findings/seeking";
import { useDesign, useUnit } from "../../state/timeline";
import { AreaField } from "../../ui/AreaField";
import { NumberField } from "../../ui/NumberField";
import { counted, Details, type PhraseProps, Told } from "./parts";

/** What is asked of a place: the same for all knockouts until the page is left. */
const useWish = create(() => ({
  least_area: 15,
  least_width: 1.5,
  turn: 10,
  smallest: 1,
  together: false,
}));

export function CutNote({ note, at }: PhraseProps<"subtract">) {
  return (
    <>
      {note?.pieces != null && <Told>leaves {counted(note.pieces, "piece")}</Told>}
      {note !== null && note.dropped > 0 && (
        <Told alarm>{note.dropped === 1 ? "a piece is" : `${note.dropped} pieces are`} cut away whole</Told>
      )}
      {at && <FindPlace {...at} />}
    </>
  );
}

function FindPlace({ layer, step }: { layer: string; step: number }) {
  const wish = useWish();
  const design = useDesign();
  const seeking = useSeeking((state) => state.seeking);
  const answer = answerFor(
    useSeeking((state) => state.answers),
    design,
    layer,
    step,
  );
  const { run } = useMending();
  const here = seeking?.layer === layer && seeking.step === step ? seeking : null;
  const steps = design.layers.find((one) => one.id === layer)?.recipe.steps ?? [];
  const cuts = steps.filter((one) => one.op === "subtract").length;
  const over = answer?.placed.go_on === null;

  return (
    <span className="mt-1 block rounded-lg bg-bench/60 px-2 py-1 text-xs leading-6">
      {here ? (
        <>
          <span role="status">Looking for a place, {Math.round(100 * (here.line?.share ?? 0))} %</span>{" "}
          <button type="button" className="font-semibold underline" onClick={here.stop}>
            Stop
          </button>
        </>
      ) : (
        <>
          {answer && (
            <span role="status" className={answer.placed.faults > 0 ? "block text-alarm" : "block"}>
              {answer.placed.sentence}
            </span>
          )}
          {!over && (
            <button
              type="button"
              className="mr-3 inline-flex items-center gap-1 font-semibold text-halo hover:underline"
              onClick={() => seek({ change: "find_place", layer, step, ...wish })}
            >
              <LocateFixed size={13} /> {answer ? "Another place" : "Find a place"}
            </button>
          )}
          {answer?.placed.offers.map((offer) => (
            <button
              key={offer.title}
              type="button"
              className="mr-3 font-semibold text-halo hover:underline"
              onClick={() => run(offer)}
            >
              {offer.title}
            </button>
          ))}
        </>
      )}
      <Details what="More of the search">
        <Wishes several={cuts > 1} />
      </Details>
    </span>
  );
}

function Wishes({ several }: { several: boolean }) {
  const wish = useWish();
  const unit = useUnit();
  return (
    <>
      turned up to{" "}
      <NumberField
        inline
        label="Turned up to"
        value={wish.turn}
        unit={null}
        min={0}
        max={90}
        onChange={(turn) => useWish.setState({ turn })}
      />
      °, as small as{" "}
      <NumberField
        inline
        label="As small as"
        value={Math.round(100 * wish.smallest)}
        unit={null}
        min={30}
        max={100}
        onChange={(share) => useWish.setState({ smallest: share / 100 })}
      />{" "}
      %, without a piece under{" "}
      <AreaField
        inline
        label="Area of a sliver"
        value={wish.least_area}
        unit={unit}
        max={10_000}
        onChange={(least_area) => useWish.setState({ least_area })}
      />{" "}
      {unit}² or narrower than{" "}
      <NumberField
        inline
        label="Width of a sliver"
        value={wish.least_width}
        unit={unit}
        min={LEAST_MM}
        max={100}
        onChange={(least_width) => useWish.setState({ least_width })}
      />
      {several && (
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={wish.together}
            onChange={(event) => useWish.setState({ together: event.target.checked })}
          />
          with the layer’s other names
        </label>
      )}
    </>
  );
}
