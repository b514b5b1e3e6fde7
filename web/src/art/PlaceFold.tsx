// Where art stands, folded away under its own settings; and what takes it out.

import type { Art } from "../document/types";
import { RemoveArt } from "./RemoveArt";
import { Standing } from "./Standing";

export function PlaceFold({ art }: { art: Art }) {
  return (
    <details className="group">
      <summary className="cursor-pointer text-soft text-xs hover:text-ink">Place</summary>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Standing art={art} />
        <div className="col-span-2 flex flex-wrap justify-end">
          <RemoveArt id={art.id} />
        </div>
      </div>
    </details>
  );
}
