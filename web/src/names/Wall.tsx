// Every row as it comes out, those that need a look first; what several have in common is mended in all of them.

import { namesOf } from "../document/nameList";
import type { Design } from "../document/types";
import { Button } from "../ui/Button";
import { Mends } from "./Mends";
import { NameCard } from "./NameCard";
import type { Made, useWall } from "./useWall";

type Props = { wall: ReturnType<typeof useWall>; design: Design };

export function Wall({ wall, design }: Props) {
  const { rows, done, busy, problem, cancel, goOn } = wall;
  const count = namesOf(design).rows.length;
  const order = rows
    .flatMap((made, index) => (made ? [{ made, index, trouble: trouble(made) }] : []))
    .sort((a, b) => b.trouble - a.trouble || a.index - b.index);
  const looked = rows.filter((one) => one && one.open.length > 0).length;
  return (
    <section aria-label="Every name as it comes out">
      <div className="flex items-center gap-3" role="status">
        {busy || rows.length !== count ? (
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
      <Mends rows={rows} />
      <ul className="mt-2 grid grid-cols-5 gap-3 max-lg:grid-cols-3 max-sm:grid-cols-2">
        {order.map(({ made, index }) => (
          <NameCard key={index} made={made} index={index} design={design.name} />
        ))}
      </ul>
    </section>
  );
}

/** How much there is to look at: what cannot be made first, then by how much is open, then what was made to fit. */
const trouble = (made: Made) =>
  (made.unmade ? 1000 : 0) + 2 * made.open.length + (made.told.length > 0 ? 1 : 0);
