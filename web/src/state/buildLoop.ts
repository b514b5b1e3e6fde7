// The build loop: outlines for the document as it stands. While it changes: quick builds, one at a time, always of the
// newest document. Once it rests for a moment: what there is to look at. Then one exact build, whose curves are the ones
// that leave, and how wide its strokes are.

import { replaceEqualDeep } from "@tanstack/react-query";
import { type BuildReply, type BuildRequest, type Cause, type Finding, Problem } from "../api/answers";
import type { Design } from "../document/types";

/** Edits that follow each other this soon are of a drag: checks wait for its end, they would only be in the way. */
const LULL_MS = 150;
const APART_MS = 300;
const REST_MS = 20;
const RETRY_MS = 2000;
/** A quick build that takes longer than this is given up for a newer document, an exact one at once. */
const PATIENCE_MS = 600;
/** So many outlines are known at most. */
const MOST_KNOWN = 60;

export type Built = {
  /** Which of all builds it is. */
  count: number;
  document: Design;
  exact: boolean;
  reply: BuildReply;
  /** Path data by layer id, mm with y down. */
  paths: Map<string, string>;
  /** Everything to look at. Shapes are checked last: until then those of the outlines before are kept. */
  findings: Finding[];
  /** The same by their causes; indices are of `findings`. */
  causes: Cause[];
  /** Whether the findings are those of these outlines. */
  checked: boolean;
};

/** What is asked of the server: the document, the art whose parts are wanted, and whether seams are shown. */
export type Wanted = { document: Design; parts: string | null; seams: boolean };

/** Exact outlines or quick ones; with all findings; with the widths of strokes. */
type How = { exact: boolean; checks?: boolean; widths?: boolean };

export type Building = { built: Built | null; problem: Problem | null; busy: boolean };

export type AskBuild = (request: BuildRequest, signal: AbortSignal) => Promise<BuildReply>;

export class BuildLoop {
  private running = false;
  /** Whether what runs can wait when there is something newer. */
  private spare = false;
  private since = 0;
  private kicked = Number.NEGATIVE_INFINITY;
  private dragging = false;
  private asked = new AbortController();
  private stopped = false;
  private known = new Map<string, string>();
  private rest: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly newest: () => Wanted,
    private readonly ask: AskBuild,
    private readonly publish: (change: (before: Building) => Building) => void,
    /** What each build waits for, if anything. */
    private readonly first: () => Promise<unknown> | null = () => null,
  ) {}

  stop() {
    this.stopped = true;
    clearTimeout(this.rest);
  }

  /** Something has changed. */
  kick() {
    if (this.stopped) return;
    clearTimeout(this.rest);
    const now = performance.now();
    this.dragging = now - this.kicked < APART_MS;
    this.kicked = now;
    this.publish((before) => (before.busy ? before : { ...before, busy: true }));
    if (!this.running) void this.run();
    else if (this.spare || now - this.since > PATIENCE_MS) this.asked.abort();
  }

  private async run() {
    this.running = true;
    let wanted: Wanted;
    do {
      const first = this.first();
      if (first) await first;
      wanted = this.newest();
      await this.build(wanted, { exact: false });
    } while (!this.stopped && wanted !== this.newest());
    this.running = false;
    if (this.stopped) return;
    if (this.dragging) this.rest = setTimeout(() => void this.check(), LULL_MS);
    // Under way before the outlines are drawn, which takes a while.
    else void this.check();
  }

  private async check() {
    const first = this.first();
    if (first) await first;
    if (await this.once({ exact: false, checks: true }))
      this.rest = setTimeout(() => void this.settle(), REST_MS);
  }

  private async settle() {
    // Widths take longer than outlines: they follow once these are shown.
    if (await this.once({ exact: true, checks: true }))
      await this.once({ exact: true, checks: true, widths: true });
  }

  /** One build of the newest document; whether it is still the newest one afterwards, and there was an answer. */
  private async once(how: How): Promise<boolean> {
    if (this.running || this.stopped) return false;
    this.running = true;
    const wanted = this.newest();
    const answered = await this.build(wanted, how);
    this.running = false;
    if (this.stopped) return false;
    // No edit of its own: a single edit that comes while there is something to give up is no drag.
    if (wanted !== this.newest()) void this.run();
    else if (!answered) this.rest = setTimeout(() => void this.check(), RETRY_MS);
    return answered && wanted === this.newest();
  }

  /** Whether there was an answer, be it a refusal. */
  private async build(wanted: Wanted, how: How): Promise<boolean> {
    const { exact, checks = false, widths = false } = how;
    this.spare = exact || checks;
    this.since = performance.now();
    this.asked = new AbortController();
    const { signal } = this.asked;
    try {
      const have = [...this.known.keys()];
      const { document, parts, seams } = wanted;
      const answer = await this.ask(
        // Its list is long, and none of what is drawn.
        { document: { ...document, names: null }, exact, have, parts_of: parts, seams, checks, widths },
        signal,
      );
      const paths = this.remember(answer);
      if (this.stopped || (this.spare && wanted !== this.newest())) return true;
      this.publish(({ built }) => {
        // What is as it was stays the same object: what is drawn of it is not drawn again. Heights come with the checks.
        const whole = { ...answer, stack: answer.stack ?? built?.reply.stack ?? null };
        const reply = replaceEqualDeep(built?.reply, whole);
        const { findings, causes } = reply.checked || !built ? reply : withThoseBefore(reply, built);
        const count = (built?.count ?? 0) + 1;
        const next = { count, document, exact, reply, paths, findings, causes, checked: reply.checked };
        return { built: next, problem: null, busy: !exact };
      });
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (signal.aborted) return true;
      if (!this.stopped) this.publish((before) => ({ ...before, problem: error, busy: false }));
      return error.status !== 0;
    }
  }

  /** Path data by layer, those that were known already among them. */
  private remember(answer: BuildReply): Map<string, string> {
    const paths = new Map<string, string>();
    const held = new Map<string, string>();
    for (const layer of answer.layers) {
      const path = layer.path ?? this.known.get(layer.key) ?? "";
      paths.set(layer.id, path);
      held.set(layer.key, path);
    }
    // Exact outlines stay known while the next quick ones arrive, and the other way round.
    for (const [key, path] of this.known) if (held.size < MOST_KNOWN && !held.has(key)) held.set(key, path);
    this.known = held;
    return paths;
  }
}

type Told = { findings: Finding[]; causes: Cause[] };

/** What is told already, with what was found at places before: shapes are looked at last. */
function withThoseBefore(reply: Told, before: Told): Told {
  const kept = before.findings.filter((finding) => finding.at !== null);
  const index = new Map(kept.map((finding, k) => [finding, reply.findings.length + k]));
  const causes = before.causes.map((cause) => ({
    ...cause,
    findings: cause.findings.flatMap((k) => index.get(before.findings[k] as Finding) ?? []),
  }));
  return {
    findings: [...reply.findings, ...kept],
    causes: [...reply.causes, ...causes.filter((cause) => cause.findings.length > 0)],
  };
}
