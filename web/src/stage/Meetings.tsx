// One action looks through all places where two layers should meet, close up, the widest slits first.

import { Focus } from "lucide-react";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import { sourceName } from "../document/names";
import { length } from "../document/units";
import { useAsked } from "../state/asked";
import { select } from "../state/selection";
import { useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { isKey, isTyping } from "../ui/keys";

/** What is seen around such a place, in mm. */
const SEEN = 0.6;

export function Meetings() {
  const design = useDesign();
  const [wanted, setWanted] = useState(false);
  const [at, setAt] = useState(-1);
  const places = useAsked(wanted ? ["meetings"] : null, (document, signal) =>
    api.meetings({ document }, signal),
  );
  const next = () => {
    setWanted(true);
    setAt(wanted && places?.length ? (at + 1) % places.length : 0);
  };
  const place = places?.[at];
  const [x, y] = place?.at_mm ?? [];
  useEffect(() => {
    if (x !== undefined && y !== undefined) select({ spot: { x, y, width: SEEN } });
  }, [x, y]);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event) || !isKey(event, "seams")) return;
      event.preventDefault();
      next();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  });
  const told =
    wanted &&
    places &&
    (place
      ? `${at + 1} of ${places.length}: ${sourceName(design, place.upper)} and ${sourceName(design, place.lower)}, ${place.gap_mm > 0 ? `a slit of ${length(place.gap_mm, design.unit)}` : "no slit"}`
      : "No two layers end at the same edge");
  return (
    <>
      {told && (
        <span role="status" className="max-w-72 truncate px-2 text-soft text-xs" title={told}>
          {told}
        </span>
      )}
      <Button
        look="quiet"
        className="px-2"
        title="The next place where two layers should meet, close up (M)"
        onClick={next}
      >
        <Focus size={15} /> <span className="max-sm:sr-only">Seams</span>
      </Button>
    </>
  );
}
