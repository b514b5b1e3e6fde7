// What cutting away left, and the search for a place where it leaves no slivers.

import { LocateFixed } from "lucide-react";
import { create } from "zustand";
import { LEAST_MM } from "../../fields/limits";
import { useMending } from "../../findings/mending";
import { useUnit } from "../../state/timeline";
import { AreaField } from "../../ui/AreaField";
import { NumberField } from "../../ui/NumberField";
import { counted, Details, type PhraseProps, Told } from "./parts";

/** What counts as a sliver: the same for all knockouts until the page is left. */
const useSliver = create(() => ({ area: 15, width: 1.5 }));

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
  const sliver = useSliver();
  const unit = useUnit();
  const { run, doing, cancel } = useMending("Looking for a place…", false);
  const limits = { least_area: sliver.area, least_width: sliver.width };
  const search = () =>
    run({
      title: "Find a place",
      changes: [{ change: "find_place", layer, step, ...limits }],
      here: false,
    });

  return (
    <span className="mt-1 block rounded-lg bg-bench/60 px-2 py-1 text-xs leading-6">
      {doing ? (
        <>
          <span role="status">{doing}</span>{" "}
          <button type="button" className="font-semibold underline" onClick={cancel}>
            Cancel
          </button>
        </>
      ) : (
        <button
          type="button"
          className="inline-flex items-center gap-1 font-semibold text-halo hover:underline"
          onClick={search}
        >
          <LocateFixed size={13} /> Find a place
        </button>
      )}
      <Details what="More of the search">
        without a piece under{" "}
        <AreaField
          inline
          label="Area of a sliver"
          value={sliver.area}
          unit={unit}
          max={10_000}
          onChange={(area) => useSliver.setState({ area })}
        />{" "}
        {unit}² or narrower than{" "}
        <NumberField
          inline
          label="Width of a sliver"
          value={sliver.width}
          unit={unit}
          min={LEAST_MM}
          max={100}
          onChange={(width) => useSliver.setState({ width })}
        />
      </Details>
    </span>
  );
}
