// An outline: what it is made of, what can be done with what is taken of it, and the way back to what it was.

import { useQuery } from "@tanstack/react-query";
import { RotateCcw, Spline } from "lucide-react";
import { memo, useMemo } from "react";
import type { OutlineLook } from "../api/answers";
import { api } from "../api/client";
import { PlaceFold } from "../art/PlaceFold";
import { isLettering } from "../document/art";
import { outlineName } from "../document/names";
import type { OutlineArt } from "../document/types";
import { length } from "../document/units";
import { select, useSelection } from "../state/selection";
import { useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { useRested } from "../ui/rested";
import { row } from "../ui/rows";
import { NodeActions } from "./NodeActions";
import { Rings } from "./Rings";
import { SimplifyForm } from "./SimplifyForm";
import { turnArt } from "./turning";

export const OutlineBox = memo(function OutlineBox({ art }: { art: OutlineArt }) {
  const shown = useSelection((state) => state.nodal === art.id);
  const looked = useOutlineLook(art);
  const what = art.made_of && isLettering(art.made_of) ? "words" : (art.made_of?.kind ?? null);
  return (
    <div className="flex flex-col gap-2 rounded-xl border border-line bg-sheet/60 p-2">
      <div className="flex items-center gap-2">
        <span
          {...row(art.id)}
          tabIndex={-1}
          className="min-w-0 flex-1 truncate font-display font-semibold text-lg"
        >
          {outlineName(art)}
        </span>
        {what && (
          <Button
            look="quiet"
            className="px-1.5"
            title={`Back to the ${what} that it was made of, where it stands now`}
            onClick={() => void turnArt(art.id, "original")}
          >
            <RotateCcw size={15} /> Back to {what}
          </Button>
        )}
      </div>
      {looked && <Facts looked={looked} />}
      <Button
        aria-pressed={shown}
        className={`h-8 ${shown ? "border-halo text-halo" : ""}`}
        onClick={() => select(shown ? { nodal: null, nodes: [] } : { picked: null, nodal: art.id })}
      >
        <Spline size={15} /> {shown ? "Done with its nodes" : "Edit its nodes"}
      </Button>
      {shown && <NodeActions art={art} />}
      {looked && <Rings art={art} looked={looked} />}
      <SimplifyForm art={art} />
      <PlaceFold art={art} />
    </div>
  );
});

/** What the server finds of an outline, once it rests; what was found before stays meanwhile. */
function useOutlineLook(art: OutlineArt): OutlineLook | null {
  const { path, place } = art;
  const { scale_x, scale_y } = place;
  const asked = useRested(useMemo(() => ({ path, scale_x, scale_y }), [path, scale_x, scale_y]));
  const { data } = useQuery({
    queryKey: ["outline", asked],
    queryFn: ({ signal }) => api.lookAtOutline(asked, signal),
    placeholderData: (before) => before,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
  });
  return data ?? null;
}

function Facts({ looked }: { looked: OutlineLook }) {
  const unit = useUnit();
  const holes = looked.rings.filter((one) => one.kind === "hole").length;
  const outside = looked.rings.filter((one) => one.outside).length;
  const said = [
    `${looked.nodes} nodes`,
    `${looked.pieces} ${looked.pieces === 1 ? "piece" : "pieces"}`,
    holes > 0 && `${holes} ${holes === 1 ? "hole" : "holes"}`,
    looked.thinnest_mm !== null && `thinnest ${length(looked.thinnest_mm, unit)}`,
  ].filter(Boolean);
  return (
    <div className="text-soft text-xs" data-testid="outline-facts">
      <p>{looked.nodes === 0 ? "Nothing is left of it." : said.join(" · ")}</p>
      {outside > 0 && <p>{outside === 1 ? "One hole lies" : `${outside} holes lie`} in no piece.</p>}
    </div>
  );
}
