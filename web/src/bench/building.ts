// Outlines for the document as it stands. While it changes: quick builds, one at a time, always of the newest
// document. Once it rests: one exact build, whose curves are the ones that leave.

import { useEffect, useState } from "react";
import { api, type BuildReply, Problem } from "../api/client";
import type { Design } from "../document/types";
import { current, useBench } from "./history";

const REST_MS = 160;

export type Built = {
  document: Design;
  exact: boolean;
  reply: BuildReply;
  /** Path data by layer id, mm with y down. */
  paths: Map<string, string>;
};

export type Building = { built: Built | null; problem: Problem | null; busy: boolean };

export function useBuilding(): Building {
  const [state, setState] = useState<Building>({ built: null, problem: null, busy: true });
  useEffect(() => {
    const newest = () => current(useBench.getState());
    const loop = new BuildLoop(newest, setState);
    loop.kick();
    // Straight from the store: the request is on its way while the fields are still being drawn.
    const stop = useBench.subscribe((now, before) => {
      if (now.timeline.length > 0 && (now.timeline !== before.timeline || now.at !== before.at)) loop.kick();
    });
    return () => {
      stop();
      loop.stop();
    };
  }, []);
  return state;
}

class BuildLoop {
  private running = false;
  private stopped = false;
  private known = new Map<string, string>();
  private rest: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly newest: () => Design,
    private readonly publish: (change: (before: Building) => Building) => void,
  ) {}

  stop() {
    this.stopped = true;
    clearTimeout(this.rest);
  }

  kick() {
    if (this.stopped) return;
    clearTimeout(this.rest);
    if (!this.running) void this.run();
  }

  private async run() {
    this.running = true;
    let document: Design;
    do {
      document = this.newest();
      await this.build(document, false);
    } while (!this.stopped && document !== this.newest());
    this.running = false;
    if (!this.stopped) this.rest = setTimeout(() => void this.settle(), REST_MS);
  }

  private async settle() {
    if (this.running) return;
    this.running = true;
    const document = this.newest();
    await this.build(document, true);
    this.running = false;
    if (document !== this.newest()) this.kick();
  }

  private async build(document: Design, exact: boolean) {
    try {
      const have = [...this.known.keys()];
      const reply = await api.build({ document, exact, have });
      const paths = new Map<string, string>();
      const held = new Map<string, string>();
      for (const layer of reply.layers) {
        const path = layer.path ?? this.known.get(layer.key) ?? "";
        paths.set(layer.id, path);
        held.set(layer.key, path);
      }
      // Exact outlines stay known while the next quick ones arrive, and the other way round.
      for (const [key, path] of this.known) if (held.size < 60 && !held.has(key)) held.set(key, path);
      this.known = held;
      if (this.stopped || (exact && document !== this.newest())) return;
      this.publish(() => ({ built: { document, exact, reply, paths }, problem: null, busy: !exact }));
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (!this.stopped) this.publish((before) => ({ ...before, problem: error, busy: false }));
      if (error.status === 0) await new Promise((done) => setTimeout(done, 1500));
    }
  }
}
