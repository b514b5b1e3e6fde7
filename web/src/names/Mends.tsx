// What several names have in common to look at, and a mend for all of them, each as it needs it.

import { useRef, useState } from "react";
import { Button } from "../ui/Button";
import { mendRows } from "./mendRows";
import type { Made } from "./useWall";

type Group = { kind: string; layer: string | null; rows: number[]; sentence: string; words: string };

export function Mends({ rows }: { rows: (Made | null)[] }) {
  const [at, setAt] = useState<{ key: string; done: number } | null>(null);
  const gone = useRef<AbortController | null>(null);
  const groups = groupsOf(rows);
  if (groups.length === 0) return null;
  const mend = async (group: Group) => {
    const asked = new AbortController();
    gone.current = asked;
    const key = keyOf(group);
    setAt({ key, done: 0 });
    await mendRows(group.rows, group.kind, group.layer, {
      signal: asked.signal,
      done: (done) => !asked.signal.aborted && setAt({ key, done }),
    });
    setAt(null);
  };
  return (
    <ul aria-label="What several names have in common" className="mt-1 flex flex-col gap-0.5">
      {groups.map((group) => (
        <li key={keyOf(group)} className="flex items-center gap-2">
          <span className="min-w-0 flex-1 truncate" title={group.sentence}>
            <span className="font-semibold">{group.rows.length} names</span>, such as <bdi>{group.words}</bdi>
            : <span className="text-alarm">{group.sentence}</span>
          </span>
          {at?.key === keyOf(group) ? (
            <span role="status" className="flex items-center gap-2">
              <progress
                aria-label="Names that are mended"
                max={group.rows.length}
                value={at.done}
                className="w-24 accent-halo"
              />
              <Button look="quiet" className="h-7 px-2" onClick={() => gone.current?.abort()}>
                Cancel
              </Button>
            </span>
          ) : (
            <Button
              className="h-7"
              disabled={at !== null}
              title="Each by what is offered first for it"
              onClick={() => void mend(group)}
            >
              Mend all {group.rows.length}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

const keyOf = ({ kind, layer }: Group) => `${kind} ${layer}`;

/** What two names or more have, and something mends; what most have first. */
function groupsOf(rows: (Made | null)[]): Group[] {
  const found = new Map<string, Group>();
  for (const [index, made] of rows.entries()) {
    for (const { kind, layer, sentence, mend } of made?.open ?? []) {
      if (!mend || !made) continue;
      const group = found.get(`${kind} ${layer}`) ?? { kind, layer, rows: [], sentence, words: made.words };
      // One name may have it for several reasons.
      if (!group.rows.includes(index)) group.rows.push(index);
      found.set(`${kind} ${layer}`, group);
    }
  }
  return [...found.values()]
    .filter((one) => one.rows.length > 1)
    .sort((a, b) => b.rows.length - a.rows.length);
}
