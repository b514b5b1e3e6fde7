// Keys that turn, tilt, move and zoom what is seen in the round.

import { type KeyboardEvent, type RefObject, useCallback } from "react";
import { selectLayer } from "../state/selection";
import { isKey } from "../ui/keys";
import type { Turning } from "./Scene";

const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

export function useTurningKeys(control: RefObject<Turning | null>, above: boolean) {
  return useCallback(
    (event: KeyboardEvent) => {
      if (event.target !== event.currentTarget) return;
      const way = WAYS[event.key];
      const hand = control.current;
      if (way && event.shiftKey) hand?.pan(...way);
      else if (way && above) hand?.pan(...way);
      else if (way) hand?.turn(way[0] * 0.12, way[1] * 0.1);
      else if (isKey(event, "zoomIn")) hand?.zoom(1.25);
      else if (isKey(event, "zoomOut")) hand?.zoom(0.8);
      else if (isKey(event, "all")) hand?.reset();
      else if (event.key === "Escape") selectLayer(null);
      else return;
      event.preventDefault();
    },
    [control, above],
  );
}
