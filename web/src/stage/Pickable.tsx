// Art that has no frame: a click picks it; picked with other art, it is dragged with that.

import type { KeyboardEvent } from "react";
import { placeTogether } from "../document/art";
import { artName } from "../document/names";
import type { Art, Place } from "../document/types";
import { allPicked, pickAlso, select, useSelection } from "../state/selection";
import { edit, now } from "../state/timeline";
import { useDrag, wayOf } from "../ui/drag";
import type { View } from "./view";

type Props = { art: Art; points: string; view: View };

export function Pickable({ art, points, view }: Props) {
  const too = useSelection((state) => state.also.includes(art.id));
  const drag = useDrag<{ id: string; place: Place; others: string[] } | null>({
    begin: () => {
      const [id = "", ...others] = allPicked();
      const main = now().art.find((one) => one.id === id);
      return main ? { id, place: main.place, others } : null;
    },
    move: (start, event, from) => {
      if (!start) return;
      const { id, place, others } = start;
      const by = wayOf(event, from, view);
      const x = Number((place.x + by.x).toFixed(3));
      const y = Number((place.y + by.y).toFixed(3));
      edit((design) => placeTogether(design, id, { ...place, x, y }, others), `${id}.move`);
    },
  });
  const keys = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    event.stopPropagation();
    if (event.shiftKey) pickAlso(art.id);
    else select({ picked: art.id });
  };
  const look = too ? "cursor-move stroke-halo" : "hover:stroke-halo/60";
  return (
    <polygon
      points={points}
      data-art={art.id}
      role="button"
      tabIndex={0}
      aria-label={`Pick “${artName(art)}”`}
      aria-pressed={too}
      strokeDasharray={too ? "5 3" : undefined}
      className={`pointer-events-auto fill-transparent outline-none focus-visible:stroke-2 focus-visible:stroke-halo ${look}`}
      onKeyDown={keys}
      {...(too ? { ...drag, onPointerDown: (event) => !event.shiftKey && drag.onPointerDown(event) } : {})}
    />
  );
}
