// A number that is typed (with any unit), dragged sideways, turned with the wheel or stepped with the arrow keys.
//
// What was typed stays in the field until it makes sense; the document only ever gets values that do.

import { GalleryHorizontal } from "lucide-react";
import { ContextMenu, Popover } from "radix-ui";
import {
  type KeyboardEvent,
  type PointerEvent,
  type RefObject,
  useEffect,
  useId,
  useRef,
  useState,
} from "react";
import type { Unit } from "../document/types";
import { type Parsed, parseLength, parsePlain, plain } from "../document/units";
import { takeBack, timelinePlace } from "../state/timeline";
import { useDrag, whenEscaped } from "./drag";

type Props = {
  label: string;
  /** In mm, or a plain number when `unit` is null. */
  value: number;
  unit: Unit | null;
  onChange: (value: number) => void;
  /** Called when a drag or a burst of keys is over. */
  onSettled?: () => void;
  /** Offers to try a range of values, within these limits. */
  onTry?: (limits: { min: number; max: number }) => void;
  /** In the shown unit. */
  step?: number;
  /** How many are shown. */
  decimals?: number;
  min?: number;
  /** Smallest value itself not allowed. */
  above?: number;
  max?: number;
  /** Show the size only: a sentence says the direction. A typed sign still sets it. */
  unsigned?: boolean;
  inline?: boolean;
  /** What it is, in more words than its label. */
  title?: string;
};

export function NumberField(props: Props) {
  const { label, value, unit, onChange, onSettled, onTry, unsigned = false, inline = false } = props;
  const step = props.step ?? (unit === "in" ? 0.01 : 0.1);
  const perUnit = unit === "in" ? 25.4 : 1;
  const decimals = props.decimals ?? (unit === "in" ? 3 : 2);
  const shown = `${plain((unsigned ? Math.abs(value) : value) / perUnit, decimals)}${unit ? ` ${unit}` : ""}`;

  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState("");
  const input = useRef<HTMLInputElement>(null);
  // While it is typed anew it passes through 0, which has no direction.
  const shrinks = useRef(false);
  // What Escape goes back to, and where the timeline was then.
  const before = useRef({ value, place: 0 });
  const note = useId();

  const judge = (parsed: Parsed | null): string => {
    if (!parsed) return unit ? `Type a length such as 3 mm or 1/8 in.` : "Type a number.";
    const size = (mm: number) => `${plain(mm / perUnit, decimals)}${unit ? ` ${unit}` : ""}`;
    if (props.above !== undefined && parsed.value <= props.above)
      return `${label} must be more than ${size(props.above)}.`;
    if (props.min !== undefined && parsed.value < props.min)
      return `${label} must be at least ${size(props.min)}.`;
    if (props.max !== undefined && parsed.value > props.max)
      return `${label} can be at most ${size(props.max)}.`;
    return "";
  };

  const type = (text: string) => {
    if (typed === null) {
      before.current = { value, place: timelinePlace() };
      shrinks.current = value < 0;
    }
    setTyped(text);
    const parsed = unit ? parseLength(text, unit) : parsePlain(text);
    if (parsed?.signed) shrinks.current = parsed.value < 0;
    const meant =
      parsed && unsigned && !parsed.signed && shrinks.current ? { ...parsed, value: -parsed.value } : parsed;
    const problem = judge(meant);
    setWrong(problem);
    if (!problem && meant && meant.value !== value) onChange(meant.value);
  };

  const nudge = (steps: number, from = value) => {
    const next = Math.round((from / perUnit + steps * step) / (step / 10)) * (step / 10) * perUnit;
    const low = props.above !== undefined ? props.above + step * perUnit : (props.min ?? -1e4);
    setTyped(null);
    setWrong("");
    onChange(Math.max(low, Math.min(props.max ?? 1e4, Number(next.toFixed(6)))));
  };

  const tryRange = () =>
    onTry?.({
      min: props.above !== undefined ? props.above + step * perUnit : (props.min ?? -1e4),
      max: props.max ?? 1e4,
    });

  const keys = (event: KeyboardEvent) => {
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    if (event.key === "ArrowUp") nudge(size);
    else if (event.key === "ArrowDown") nudge(-size);
    else if (event.key === "Enter" && event.altKey && onTry) tryRange();
    else if (event.key === "Enter") {
      input.current?.blur();
      if (!wrong) input.current?.form?.requestSubmit();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const giveUp = () => {
    if (document.activeElement !== input.current) return false;
    setTyped(null);
    setWrong("");
    if (value !== before.current.value) onChange(before.current.value);
    takeBack(before.current.place);
  };
  const newest = useRef(giveUp);
  newest.current = giveUp;
  const typing = typed !== null;
  // A dialog that hears Escape would close.
  useEffect(() => (typing ? whenEscaped(() => newest.current()) : undefined), [typing]);

  const turn = useRef(nudge);
  turn.current = nudge;
  useEffect(() => {
    // React's wheel listeners are passive and could not keep the page from scrolling.
    const field = input.current;
    const wheel = (event: WheelEvent) => {
      if (document.activeElement !== field) return;
      event.preventDefault();
      turn.current((event.deltaY < 0 ? 1 : -1) * (event.shiftKey ? 10 : 1));
    };
    field?.addEventListener("wheel", wheel, { passive: false });
    return () => field?.removeEventListener("wheel", wheel);
  }, []);

  const drag = useDrag<number>({
    begin: () => value,
    move: (start, event, from) => nudge(Math.round((event.clientX - from.x) / 4), start),
    cancel: (start) => onChange(start),
    drop: () => input.current?.blur(),
  });
  // In a field that is typed into a drag marks text.
  const press = (event: PointerEvent) =>
    document.activeElement !== input.current && drag.onPointerDown(event);

  return (
    <span className={`group/number relative ${inline ? "inline-block" : "block min-w-0"}`}>
      <ContextMenu.Root>
        <ContextMenu.Trigger asChild disabled={!onTry}>
          <input
            ref={input}
            role="spinbutton"
            aria-label={label}
            aria-valuenow={value / perUnit}
            aria-valuetext={shown}
            aria-invalid={wrong !== ""}
            aria-describedby={wrong ? note : undefined}
            title={`${props.title ? `${label}, ${props.title}` : label}: type, drag sideways, or use the arrow keys${onTry ? ". Right-click, or press the button beside it, to try a range of values" : ""}`}
            inputMode="decimal"
            autoComplete="off"
            spellCheck={false}
            value={typed ?? shown}
            size={inline ? (typed ?? shown).length : undefined}
            className={`cursor-ew-resize touch-none focus:cursor-text ${
              inline
                ? "word-field text-center"
                : "h-8 w-full rounded-lg border border-line bg-sheet px-2.5 hover:border-soft"
            } ${wrong ? "border-alarm text-alarm" : ""}`}
            onChange={(event) => type(event.target.value)}
            onFocus={(event) => event.target.select()}
            onBlur={() => {
              if (!wrong) oncePressed(() => setTyped(null));
              // Whoever comes back to a wrong number takes nothing back that was done elsewhere meanwhile.
              before.current = { ...before.current, place: Number.POSITIVE_INFINITY };
              onSettled?.();
            }}
            onKeyDown={keys}
            onPointerDown={press}
          />
        </ContextMenu.Trigger>
        <ContextMenu.Portal>
          <ContextMenu.Content className="z-[60] rounded-xl border border-line bg-sheet p-1 shadow-black/15 shadow-xl">
            <ContextMenu.Item
              className="rounded-lg px-2.5 py-1.5 outline-none data-[highlighted]:bg-bench"
              onSelect={tryRange}
            >
              Try a range of values…
            </ContextMenu.Item>
          </ContextMenu.Content>
        </ContextMenu.Portal>
      </ContextMenu.Root>
      {onTry && (
        <button
          type="button"
          aria-label="Try a range of values"
          title="Try a range of values"
          // Not in the way of Tab: Alt+Enter in the field does the same.
          tabIndex={-1}
          className={`absolute z-10 hidden size-6 items-center justify-center rounded-md border border-line bg-sheet text-soft shadow-black/10 shadow-sm hover:text-halo group-focus-within/number:flex group-hover/number:flex ${inline ? "-top-4 -right-5" : "top-1 right-1"}`}
          onClick={tryRange}
        >
          <GalleryHorizontal size={14} aria-hidden="true" />
        </button>
      )}
      {wrong && (
        <Popover.Root open>
          <Popover.Anchor virtualRef={input as RefObject<HTMLInputElement>} />
          <Popover.Portal>
            <Popover.Content
              id={note}
              role="alert"
              side="bottom"
              align="start"
              sideOffset={5}
              collisionPadding={8}
              onOpenAutoFocus={(event) => event.preventDefault()}
              className="z-40 max-w-64 rounded-lg border border-alarm bg-sheet px-2 py-1 text-alarm text-xs shadow-lg"
            >
              {wrong}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </span>
  );
}

/** Once the pointer is up, where one is down: a line that breaks otherwise would move what is being clicked. */
function oncePressed(call: () => void): void {
  if (document.querySelector(":active"))
    addEventListener("pointerup", () => setTimeout(call), { once: true });
  else call();
}
