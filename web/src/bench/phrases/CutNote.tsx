// What cutting away left, and the search for a place where it leaves no slivers.

import { LocateFixed } from "lucide-react";
import { useRef, useState } from "react";
import { create } from "zustand";
import { api, Problem } from "../../api/client";
import { changeArt } from "../../document/edit";
import { say } from "../../ui/toast";
import { current, edit, useBench } from "../history";
import { counted, Length, type PhraseProps, Plain, Told } from "./parts";

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
  const [busy, setBusy] = useState(false);
  const asked = useRef<AbortController | null>(null);

  const seek = async () => {
    setBusy(true);
    asked.current = new AbortController();
    const { signal } = asked.current;
    const document = current(useBench.getState());
    const limits = { least_area_mm2: sliver.area, least_width_mm: sliver.width };
    try {
      const found = await api.findPlace({ document, layer, step, ...limits }, signal);
      const moved = found.dx !== 0 || found.dy !== 0;
      if (moved)
        edit((design) =>
          changeArt(design, found.art, (art) => ({
            ...art,
            place: { ...art.place, x: art.place.x + found.dx, y: art.place.y + found.dy },
          })),
        );
      say(found.sentence, moved ? { label: "Undo", run: useBench.getState().undo } : undefined);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (!signal.aborted) say(error.sentence);
    }
    setBusy(false);
  };

  return (
    <span className="mt-1 block rounded-lg bg-bench/60 px-2 py-1 text-xs leading-6">
      {busy ? (
        <>
          <span role="status">Looking for a place…</span>{" "}
          <button type="button" className="font-semibold underline" onClick={() => asked.current?.abort()}>
            Cancel
          </button>
        </>
      ) : (
        <button
          type="button"
          className="inline-flex items-center gap-1 font-semibold text-halo hover:underline"
          onClick={() => void seek()}
        >
          <LocateFixed size={13} /> Find a place
        </button>
      )}{" "}
      that leaves no piece under{" "}
      <Plain
        label="Area of a sliver"
        value={sliver.area}
        above={0}
        max={10_000}
        after=" mm²"
        onChange={(area) => useSliver.setState({ area })}
      />{" "}
      or narrower than{" "}
      <Length
        label="Width of a sliver"
        value={sliver.width}
        above={0}
        max={100}
        onChange={(width) => useSliver.setState({ width })}
      />
    </span>
  );
}
