// A place is looked for, for words that are cut away from others: the nearest one that leaves no slivers.

import { useRef, useState } from "react";
import { api, Problem } from "../api/client";
import { changeArt } from "../document/edit";
import { say } from "../ui/toast";
import { current, edit, useBench } from "./history";
import { sayUndoable } from "./undoable";

/** The layer, its step that cuts words away, and what counts as a sliver: less than that area or width. */
export type Sought = { layer: string; step: number; area: number; width: number };

export type Seeking = { busy: boolean; seek: (sought: Sought) => void; cancel: () => void };

export function useSeeking(): Seeking {
  const [busy, setBusy] = useState(false);
  const asked = useRef<AbortController | null>(null);

  const seek = async ({ layer, step, area, width }: Sought) => {
    setBusy(true);
    asked.current = new AbortController();
    const { signal } = asked.current;
    const document = current(useBench.getState());
    const limits = { least_area_mm2: area, least_width_mm: width };
    try {
      const found = await api.findPlace({ document, layer, step, ...limits }, signal);
      const moved = found.dx !== 0 || found.dy !== 0;
      if (moved) {
        useBench.setState({ spot: null });
        edit((design) =>
          changeArt(design, found.art, (art) => ({
            ...art,
            place: { ...art.place, x: art.place.x + found.dx, y: art.place.y + found.dy },
          })),
        );
        sayUndoable(found.sentence);
      } else say(found.sentence);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (!signal.aborted) say(error.sentence);
    }
    setBusy(false);
  };

  return { busy, seek: (sought) => void seek(sought), cancel: () => asked.current?.abort() };
}
