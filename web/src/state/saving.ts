// Send edits to the server soon after they are made; one save at a time, in order; nothing is given up on failure.

import { create } from "zustand";
import { type DesignState, Problem, type SaveRequest } from "../api/answers";
import { outlasts } from "../api/outlasts";
import { hasUnsent, unsent, useTimeline } from "./timeline";

const QUIET_MS = 350;
/** Somebody who never pauses is saved as well. */
const LONGEST_MS = 2000;
const RETRY_MS = 2000;

export type Saving = "saved" | "waiting" | "saving" | "offline" | "refused" | "stale";

/** How saving stands, and why the last save was refused. */
export const useSaving = create<{ saving: Saving; refusal: string }>()(() => ({
  saving: "saved",
  refusal: "",
}));

const stands = (saving: Saving, refusal = "") => useSaving.setState({ saving, refusal });

/** What saving asks of the server. */
export type Server = {
  save: (id: string, request: SaveRequest) => Promise<{ revision: number }>;
  get: (id: string) => Promise<DesignState>;
};

/** Saves what the timeline has not told the server about. */
export class Saver {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private waitingSince = 0;
  private running: Promise<void> | null = null;
  private onItsWay: SaveRequest | null = null;

  constructor(
    private readonly server: Server,
    /** Called with the design's id and its revision after every save. */
    private readonly news: (id: string, revision: number) => void,
  ) {}

  /** Watch the timeline; gives what ends that. */
  watch(): () => void {
    return useTimeline.subscribe((now, before) => {
      if (now.timeline === before.timeline && now.at === before.at) return;
      const { saving } = useSaving.getState();
      if (saving === "stale" || !hasUnsent()) return;
      if (saving !== "saving" && saving !== "waiting") stands("waiting");
      // A drag is one edit after the other, and saving each would hold up its outlines.
      const time = performance.now();
      if (saving === "saved" || saving === "refused") this.waitingSince = time;
      else if (saving !== "waiting") return;
      this.schedule(Math.min(QUIET_MS, Math.max(0, this.waitingSince + LONGEST_MS - time)));
    });
  }

  private schedule(delay: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), delay);
  }

  /** Save everything that is unsent; resolves once it is stored, or cannot be for now. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    while (this.running) await this.running;
    if (useSaving.getState().saving === "stale") return;
    this.running = this.send().finally(() => {
      this.running = null;
    });
    await this.running;
  }

  private async send(): Promise<void> {
    const { id, takeUnsent, saved, putBack } = useTimeline.getState();
    const request = takeUnsent();
    if (!request) return;
    stands("saving");
    this.onItsWay = request;
    try {
      const { revision } = await this.server.save(id, request);
      if (useTimeline.getState().id !== id) return;
      saved(revision);
      this.news(id, revision);
      const more = hasUnsent();
      stands(more ? "waiting" : "saved");
      if (more) {
        this.waitingSince = performance.now();
        this.schedule(QUIET_MS);
      }
    } catch (error) {
      if (useTimeline.getState().id !== id) return;
      putBack(request);
      if (!(error instanceof Problem)) throw error;
      if (error.status === 409) stands("stale");
      else if (error.status === 0 || error.status >= 500) {
        stands("offline", error.status === 0 ? "" : error.sentence);
        this.schedule(RETRY_MS);
      } else stands("refused", error.sentence);
    } finally {
      this.onItsWay = null;
    }
  }

  /** Take over what another window saved, unless something here is unsent. */
  async catchUp(id: string, revision?: number): Promise<void> {
    if (isUnsaved() || revision === useTimeline.getState().revision) return;
    const theirs = await this.server.get(id).catch(() => null);
    const now = useTimeline.getState();
    if (theirs && now.id === id && theirs.revision > now.revision && !isUnsaved()) now.open(theirs);
  }

  /** Send what is unsent while the page goes away: nobody waits for the answer. */
  leave(): void {
    const { id, takeUnsent, saved, putBack } = useTimeline.getState();
    if (this.running || useSaving.getState().saving === "stale") return;
    const request = takeUnsent();
    if (request)
      void this.server.save(id, request).then(
        (reply) => saved(reply.revision),
        () => putBack(request),
      );
  }

  /** Whether something is unsent that `leave` cannot send, or on its way and cut off when the page goes away. */
  isBehind(): boolean {
    const [sent, left] = [this.onItsWay, unsent(useTimeline.getState())];
    if (sent && left) return true;
    const request = sent ?? left;
    return request !== null && !outlasts(request);
  }
}

/** Whether something is unsent, on its way, or cannot be sent. */
const isUnsaved = (): boolean => {
  const { saving } = useSaving.getState();
  return hasUnsent() || saving === "saving" || saving === "stale";
};

/** Whether leaving now would lose something. */
export const wouldLose = (): boolean => ["stale", "offline", "refused"].includes(useSaving.getState().saving);

/** A design was opened, or taken over anew: nothing is unsent, or all of `saving`. */
export const savingAnew = (saving: Saving = "saved"): void => stands(saving);
