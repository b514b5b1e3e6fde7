// Send edits to the server soon after they are made; one save at a time, in order; nothing is given up on failure.

import { useEffect } from "react";
import { api, Problem } from "../api/client";
import { hasUnsent, useBench } from "./history";

const QUIET_MS = 350;
/** Somebody who never pauses is saved as well. */
const LONGEST_MS = 2000;
const RETRY_MS = 2000;

let timer: ReturnType<typeof setTimeout> | undefined;
let waitingSince = 0;
let running: Promise<void> | null = null;

const news = new BroadcastChannel("tinhalo.saved");

function schedule(delay: number) {
  clearTimeout(timer);
  timer = setTimeout(() => void flush(), delay);
}

/** Save everything that is unsent; resolves once it is stored, or cannot be for now. */
export async function flush(): Promise<void> {
  clearTimeout(timer);
  while (running) await running;
  if (useBench.getState().saving === "stale") return;
  running = send().finally(() => {
    running = null;
  });
  await running;
}

async function send(): Promise<void> {
  const bench = useBench.getState();
  const request = bench.takeUnsent();
  if (!request) return;
  bench.setSaving("saving");
  try {
    const { revision } = await api.save(bench.id, request);
    if (useBench.getState().id !== bench.id) return;
    bench.saved(revision);
    news.postMessage({ id: bench.id, revision });
    const more = useBench.getState().moved || useBench.getState().unsentFrom !== Number.POSITIVE_INFINITY;
    bench.setSaving(more ? "waiting" : "saved");
    if (more) {
      waitingSince = performance.now();
      schedule(QUIET_MS);
    }
  } catch (error) {
    if (useBench.getState().id !== bench.id) return;
    bench.putBack(request);
    if (!(error instanceof Problem)) throw error;
    if (error.status === 409) bench.setSaving("stale");
    else if (error.status === 0 || error.status >= 500) {
      bench.setSaving("offline");
      schedule(RETRY_MS);
    } else bench.setSaving("refused", error.sentence);
  }
}

/** Keep the open design saved, and follow what other windows save while nothing here is unsent. */
export function useAutosave(id: string) {
  useEffect(() => {
    const stop = useBench.subscribe((now, before) => {
      if (now.timeline === before.timeline && now.at === before.at) return;
      if (now.saving === "stale" || !hasUnsent()) return;
      if (now.saving !== "saving" && now.saving !== "waiting") now.setSaving("waiting");
      // A drag is one edit after the other, and saving each would hold up its outlines.
      const time = performance.now();
      if (before.saving === "saved" || before.saving === "refused") waitingSince = time;
      else if (before.saving !== "waiting") return;
      schedule(Math.min(QUIET_MS, Math.max(0, waitingSince + LONGEST_MS - time)));
    });

    const catchUp = async (revision?: number) => {
      const bench = useBench.getState();
      if (hasUnsent() || bench.saving === "stale" || revision === bench.revision) return;
      const theirs = await api.get(id).catch(() => null);
      const now = useBench.getState();
      if (theirs && now.id === id && theirs.revision > now.revision && !hasUnsent()) {
        const selected = now.selected;
        now.open(theirs);
        now.select(selected);
      }
    };
    const onNews = (event: MessageEvent<{ id: string; revision: number }>) => {
      if (event.data.id === id) void catchUp(event.data.revision);
    };
    const onFocus = () => void catchUp();
    const onHide = () => {
      const bench = useBench.getState();
      if (running || bench.saving === "stale") return;
      const request = bench.takeUnsent();
      if (request)
        void api.save(bench.id, request, true).then(
          (reply) => bench.saved(reply.revision),
          () => bench.putBack(request),
        );
    };
    const onLeave = (event: BeforeUnloadEvent) => {
      const { saving } = useBench.getState();
      if (saving === "stale" || saving === "offline" || saving === "refused") event.preventDefault();
    };
    news.addEventListener("message", onNews);
    addEventListener("focus", onFocus);
    addEventListener("pagehide", onHide);
    addEventListener("beforeunload", onLeave);
    return () => {
      stop();
      news.removeEventListener("message", onNews);
      removeEventListener("focus", onFocus);
      removeEventListener("pagehide", onHide);
      removeEventListener("beforeunload", onLeave);
      void flush();
    };
  }, [id]);
}
