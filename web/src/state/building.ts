// What was built of the document as it stands, and the loop that keeps it up to date while the bench is open.

import { useEffect } from "react";
import { create } from "zustand";
import { api } from "../api/client";
import { type Building, BuildLoop, type Wanted } from "./buildLoop";
import { useSelection } from "./selection";
import { now, whenChanged } from "./timeline";

export type { Building, Built } from "./buildLoop";

const NOTHING: Building = { built: null, problem: null, busy: true };

const useResults = create<Building>()(() => NOTHING);

const FIRST_MS = 1000;

let first: (() => Promise<unknown>) | null = null;

/** Another look of the piece comes first: what it does is awaited, for a second at most, so that outlines and checks are
 * not in its way. */
export function comesFirst(shows: () => Promise<unknown>): () => void {
  first = shows;
  return () => {
    if (first === shows) first = null;
  };
}

/** The outlines as they were last built. */
export const useBuilt = (): Building => useResults();

/** The same for what is done once, and does not follow. */
export const builtNow = (): Building => useResults.getState();

/** Keep them up to date. */
export function useBuilding(): Building {
  useEffect(() => {
    useResults.setState(NOTHING);
    let last: Wanted | null = null;
    const newest = () => {
      const document = now();
      const { picked, seams } = useSelection.getState();
      if (last?.document !== document || last.parts !== picked || last.seams !== seams)
        last = { document, parts: picked, seams };
      return last;
    };
    const loop = new BuildLoop(
      newest,
      api.build,
      (change) => useResults.setState(change),
      () => first && Promise.race([first(), new Promise((done) => setTimeout(done, FIRST_MS))]),
    );
    loop.kick();
    // Straight from the stores: the request is on its way while the fields are still being drawn.
    const stops = [
      whenChanged(() => loop.kick()),
      useSelection.subscribe((state, before) => {
        if (state.picked !== before.picked || state.seams !== before.seams) loop.kick();
      }),
    ];
    return () => {
      for (const stop of stops) stop();
      loop.stop();
    };
  }, []);
  return useBuilt();
}
