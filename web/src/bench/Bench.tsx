// The main screen: art and build sheet on the left, the stage on the right, findings along the bottom.

import { useEffect, useMemo } from "react";
import type { Font, Material } from "../api/client";
import { ArtPanel } from "../art/ArtPanel";
import { CarvingPanel } from "../carving/CarvingPanel";
import { Conflict } from "../dialogs/Conflict";
import { TryRange, useForgetRange } from "../dialogs/TryRange";
import { useDropped } from "../drawings/bringIn";
import { FindingsStrip } from "../findings/FindingsStrip";
import { BuildSheet } from "../layers/BuildSheet";
import { Catalogue } from "../layers/catalogue";
import { MaterialPanel } from "../layers/MaterialPanel";
import { StepCopies } from "../layers/StepCopies";
import { OfList } from "../names/OfList";
import { Stage } from "../stage/Stage";
import { useBuilding } from "../state/building";
import { usePart } from "../state/timeline";
import { Failure } from "../ui/Failure";
import { walkRows } from "../ui/rows";
import { TopEdge } from "./TopEdge";
import { useCopyKeys } from "./useCopying";
import { useUndoKeys } from "./useUndoKeys";

export function Bench({ fonts, materials }: { fonts: Font[]; materials: Material[] }) {
  const name = usePart((design) => design.name);
  const building = useBuilding();
  const catalogue = useMemo(() => ({ fonts, materials }), [fonts, materials]);
  useUndoKeys();
  useCopyKeys();
  useForgetRange();
  useDropped();
  useEffect(() => {
    document.title = `${name || "Untitled"} – Tin Halo`;
    return () => {
      document.title = "Tin Halo";
    };
  }, [name]);

  return (
    <Catalogue value={catalogue}>
      <style>{fonts.map(fontFace).join("")}</style>
      {/* Narrow windows get a narrower panel; on a phone it is under the stage. */}
      <div className="grid h-full grid-cols-[364px_minmax(0,1fr)] grid-rows-[auto_auto_minmax(0,1fr)_auto] max-[900px]:grid-cols-[300px_minmax(0,1fr)] max-sm:grid-cols-[minmax(0,1fr)] max-sm:grid-rows-[auto_auto_42vh_minmax(0,1fr)_auto]">
        <TopEdge building={building} />
        <div className="col-span-full row-start-2 min-w-0">
          <Conflict />
          <Failure place="bench" className="border-alarm border-b" />
          <OfList />
        </div>
        <aside
          aria-label="Words, shapes and layers"
          className="slim col-start-1 row-start-3 min-w-0 overflow-y-auto border-line border-r bg-paper max-sm:row-start-4 max-sm:border-t max-sm:border-r-0"
          onKeyDown={walkRows}
        >
          <ArtPanel building={building} />
          <CarvingPanel />
          <BuildSheet building={building} />
        </aside>
        <Stage building={building} />
        <div className="col-span-full row-start-4 min-w-0 max-sm:row-start-5">
          <Failure place="findings" className="border-line border-t" />
          <FindingsStrip building={building} />
        </div>
        <TryRange />
        <StepCopies />
        <MaterialPanel />
      </div>
    </Catalogue>
  );
}

/** Lets a font's name be shown in its own letters; the file is only fetched where that happens. */
function fontFace({ id }: Font): string {
  return `@font-face{font-family:"th-${id}";src:url("/api/fonts/${id}/file");font-display:block}`;
}
