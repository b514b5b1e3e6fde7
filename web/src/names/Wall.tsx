// Every row as it comes out, those that need a look first.

import { TriangleAlert } from "lucide-react";
import { useNavigate } from "react-router";
import { api, Problem } from "../api/client";
import type { Names } from "../document/types";
import { Button } from "../ui/Button";
import { say } from "../ui/toast";
import type { Made, useWall } from "./useWall";

type Props = { wall: ReturnType<typeof useWall>; names: Names };

export function Wall({ wall, names }: Props) {
  const { rows, done, busy, problem, cancel, goOn } = wall;
  const count = names.rows.length;
  const order = rows
    .map((made, index) => ({ made, index }))
    .sort((a, b) => trouble(b.made) - trouble(a.made) || a.index - b.index);
  const looked = rows.filter((one) => one && one.open.length > 0).length;
  return (
    <section aria-label="Every name as it comes out">
      <div className="flex items-center gap-3" role="status">
        {busy ? (
          <>
            <progress
              aria-label="Names that are done"
              max={count}
              value={done}
              className="w-40 accent-halo"
            />
            {done} of {count}
            <Button look="quiet" className="h-7 px-2" onClick={cancel}>
              Cancel
            </Button>
          </>
        ) : done < count ? (
          <Button className="h-7 px-2" onClick={goOn}>
            {done} of {count} are done: go on
          </Button>
        ) : (
          <span data-testid="wall-done">
            {looked === 0
              ? `All ${count} are as they should be.`
              : `${looked} of ${count} ${looked === 1 ? "needs" : "need"} a look.`}
          </span>
        )}
      </div>
      {problem && (
        <p role="alert" className="text-alarm">
          {problem}
        </p>
      )}
      <ul className="mt-2 grid grid-cols-4 gap-3 max-sm:grid-cols-2">
        {order.map(({ made, index }) => (
          <Card key={index} made={made} index={index} />
        ))}
      </ul>
    </section>
  );
}

/** How much there is to look at: what cannot be made first, then by how much is open, then what was made to fit. */
const trouble = (made: Made | null) =>
  made ? (made.unmade ? 1000 : 0) + 2 * made.open.length + (made.told.length > 0 ? 1 : 0) : 0;

function Card({ made, index }: { made: Made | null; index: number }) {
  const go = useNavigate();
  const open = async () => {
    if (!made) return;
    try {
      const { document } = made;
      const kept = await api.create({ ...document, name: `${document.name}, ${made.words}`.slice(0, 200) });
      go(`/design/${kept.id}`);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say(error.sentence);
    }
  };
  return (
    <li className="flex flex-col overflow-hidden rounded-xl border border-line" data-testid={`name-${index}`}>
      <span className="flex h-36 items-center justify-center bg-bench p-2">
        {made && (
          <img
            alt=""
            src={`data:image/svg+xml,${encodeURIComponent(made.picture)}`}
            className="max-h-full max-w-full"
          />
        )}
      </span>
      <div className="flex flex-1 flex-col gap-0.5 px-3 py-1.5">
        <span className="truncate font-semibold" dir="auto">
          <span className="text-soft">{index + 1}</span> {made?.words ?? "…"}
          {made && made.copies !== 1 && <span className="text-soft"> × {made.copies}</span>}
        </span>
        {made?.told.map((sentence) => (
          <span key={sentence} className="text-soft text-xs">
            {sentence}
          </span>
        ))}
        {made?.open.map((sentence) => (
          <span key={sentence} className="flex gap-1 text-alarm text-xs">
            <TriangleAlert size={13} className="mt-0.5 shrink-0" aria-hidden="true" />
            {sentence}
          </span>
        ))}
        {made && (
          <Button
            look="quiet"
            className="mt-auto h-7 self-start px-1"
            title="As a design of its own, to change it alone"
            onClick={() => void open()}
          >
            Open it
          </Button>
        )}
      </div>
    </li>
  );
}
