// Where the stage looks: all of the job until somebody zooms or pans, by wheel, drag, two fingers or keys.

import {
  type PointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from "react";
import { useSelection } from "../state/selection";
import { useDragging, whenEscaped } from "../ui/drag";
import { RULER } from "./Rulers";
import { type Box, clampScale, fitted, type Size, type View, zoomed } from "./view";

type Point = { x: number; y: number };
type Held = { from: Point; spread: number; view: View; moved: boolean; begun: View };

/** Pixels before a press is a drag. */
const SLACK = 4;

/** The view of a surface, what changes it, and how to tell a click from a drag. */
export function useView(surface: RefObject<HTMLDivElement | null>, shown: Box | null) {
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  const [own, setOwn] = useState<View | null>(null);
  const remembered = useRef<{ view: View; size: Size } | null>(null);
  const [, refit] = useState(0);

  // Until somebody zooms or pans, the whole job stays in sight, but it does not jump at every keystroke.
  const inner = { width: size.width - RULER, height: size.height - RULER };
  const last = remembered.current;
  // A message under it, or a finding of two lines, takes some of its height for a while.
  const asBefore = last?.size.width === inner.width;
  // Under a pointer that drags it does not move at all.
  const held = useDragging() && asBefore;
  const auto = held ? last.view : settled(asBefore ? last.view : null, shown, inner);
  if (shown && inner.width > 0) remembered.current = { view: auto, size: inner };
  const view = own ?? auto;

  // Measured before the first frame: the observer tells the size only with it, and the job would be a dot until then.
  useLayoutEffect(() => {
    const element = surface.current;
    if (!element) return;
    const measure = () => {
      const { clientWidth: width, clientHeight: height } = element;
      setSize((known) => (known.width === width && known.height === height ? known : { width, height }));
    };
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, [surface]);

  const sizeNow = useRef(inner);
  sizeNow.current = inner;
  const latest = useRef(view);
  latest.current = view;
  const zoomBy = useCallback((factor: number) => {
    const { width, height } = sizeNow.current;
    setOwn(zoomed(latest.current, factor, { x: width / 2, y: height / 2 }));
  }, []);
  const panBy = useCallback((dx: number, dy: number) => {
    const { scale, x, y } = latest.current;
    setOwn({ scale, x: x + dx, y: y + dy });
  }, []);
  const fit = useCallback(() => {
    remembered.current = null;
    setOwn(null);
    // Also when nobody had zoomed: the view kept from before the last edits may no longer be the best one.
    refit((count) => count + 1);
  }, []);

  useEffect(() => {
    const element = surface.current;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
      const at = { x: event.clientX - box.left - RULER, y: event.clientY - box.top - RULER };
      setOwn(zoomed(latest.current, Math.exp(-event.deltaY * (event.deltaMode === 1 ? 0.05 : 0.0015)), at));
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, [surface]);

  const spot = useSelection((state) => state.spot);
  useEffect(() => {
    if (!spot) return;
    const { width, height } = sizeNow.current;
    const scale = clampScale(Math.min(width, height) / Math.max(12 * spot.width, 2));
    setOwn({ scale, x: width / 2 - spot.x * scale, y: height / 2 + spot.y * scale });
  }, [spot]);

  return { view, inner, zoomBy, panBy, fit, spot, ...usePointers(latest, setOwn) };
}

/**
 * One pointer drags the view, two turn their distance into scale; a press that does neither is a click. Escape takes
 * the drag back.
 */
function usePointers(latest: RefObject<View>, setOwn: (view: View) => void) {
  const down = useRef(new Map<number, Point>());
  const held = useRef<Held | null>(null);
  const deaf = useRef(() => {});
  useEffect(() => () => deaf.current(), []);
  const grab = (moved: boolean) => {
    const { middle, spread } = spanned([...down.current.values()]);
    const begun = held.current?.begun ?? latest.current;
    held.current = { from: middle, spread, view: latest.current, moved, begun };
    deaf.current();
    deaf.current = whenEscaped(() => {
      if (held.current?.moved) setOwn(begun);
      letGo();
    });
  };
  const letGo = () => {
    down.current.clear();
    held.current = null;
    deaf.current();
    deaf.current = () => {};
  };
  const press = (event: PointerEvent) => {
    if (event.button > 1) return;
    down.current.set(event.pointerId, inside(event));
    grab(down.current.size > 1);
  };
  const move = (event: PointerEvent) => {
    const from = held.current;
    if (!from || !down.current.has(event.pointerId)) return;
    down.current.set(event.pointerId, inside(event));
    const { middle, spread } = spanned([...down.current.values()]);
    const dx = middle.x - from.from.x;
    const dy = middle.y - from.from.y;
    if (!from.moved && Math.hypot(dx, dy) < SLACK) return;
    from.moved = true;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const wider = from.spread > 0 ? zoomed(from.view, spread / from.spread, from.from) : from.view;
    setOwn({ ...wider, x: wider.x + dx, y: wider.y + dy });
  };
  /** Whether this was a click. */
  const release = (event: PointerEvent): boolean => {
    if (!down.current.delete(event.pointerId)) return false;
    const moved = held.current?.moved ?? true;
    if (down.current.size > 0) grab(true);
    else letGo();
    return down.current.size === 0 && !moved && event.type !== "pointercancel";
  };
  return { press, move, release };
}

/** A pointer's place on the drawing, right and down of the rulers. */
function inside(event: PointerEvent): Point {
  const box = event.currentTarget.getBoundingClientRect();
  return { x: event.clientX - box.left - RULER, y: event.clientY - box.top - RULER };
}

function spanned(points: Point[]): { middle: Point; spread: number } {
  const [one = { x: 0, y: 0 }, other = one] = points;
  const middle = { x: (one.x + other.x) / 2, y: (one.y + other.y) / 2 };
  return { middle, spread: Math.hypot(one.x - other.x, one.y - other.y) };
}

/** The fitted view, unless the last one still shows the job well. */
function settled(last: View | null, bounds: Box | null, size: Size): View {
  const wanted = fitted(bounds, size);
  if (!last || !bounds) return last && !bounds ? last : wanted;
  const left = last.x + bounds[0] * last.scale;
  const right = last.x + bounds[2] * last.scale;
  const top = last.y - bounds[3] * last.scale;
  const bottom = last.y - bounds[1] * last.scale;
  const inside = left > 12 && right < size.width - 12 && top > 12 && bottom < size.height - 12;
  const share = Math.max((right - left) / size.width, (bottom - top) / size.height);
  return inside && share > 0.5 ? last : wanted;
}
