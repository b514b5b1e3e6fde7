// One choice out of a list, on Radix. Options may be grouped and may draw themselves.

import { Check, ChevronDown } from "lucide-react";
import { Select } from "radix-ui";
import { type ReactNode, useState } from "react";
import { row } from "./rows";

export type Option<Value extends string> = { value: Value; text: string; show?: ReactNode };
export type Group<Value extends string> = { title?: string; options: Option<Value>[] };

type Props<Value extends string> = {
  label: string;
  value: Value;
  groups: Group<Value>[];
  onChange: (value: Value) => void;
  /** How the choice reads inside a sentence rather than in a form. */
  inline?: boolean;
  className?: string;
  /** The row that this is what is walked to of, see `rows`. */
  row?: string;
};

export function Choice<Value extends string>(props: Props<Value>) {
  const { label, value, groups, onChange, inline = false, className = "", row: own } = props;
  const known = groups.flatMap((group) => group.options).find((option) => option.value === value);
  const frame = inline
    ? "word-field inline-flex items-baseline"
    : "inline-flex h-8 min-w-0 items-center gap-1 rounded-lg border border-line bg-sheet px-2.5 hover:border-soft";
  // A closed list of Radix still renders its options, out of sight: with a font list or two that costs every edit.
  const [open, setOpen] = useState(false);
  return (
    <Select.Root
      open={open}
      onOpenChange={setOpen}
      value={value}
      onValueChange={(next) => onChange(next as Value)}
    >
      <Select.Trigger {...(own ? row(own) : {})} aria-label={label} className={`${frame} ${className}`}>
        <span className="min-w-0 flex-1 truncate text-left">{known?.show ?? known?.text ?? value}</span>
        {!inline && <ChevronDown size={14} className="shrink-0 text-soft" />}
      </Select.Trigger>
      {open && (
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            // What a choice opens has the focus before the key is over: a form there would be sent by it.
            onKeyDown={(event) => event.key === "Enter" && event.preventDefault()}
            className="z-50 max-h-[min(26rem,var(--radix-select-content-available-height))] overflow-hidden rounded-xl border border-line bg-sheet shadow-black/15 shadow-xl"
          >
            <Select.Viewport className="p-1">
              {groups.map((group) => (
                <Select.Group key={group.title ?? ""}>
                  {group.title && (
                    <Select.Label className="px-2.5 pt-2 pb-0.5 text-soft text-xs">
                      {group.title}
                    </Select.Label>
                  )}
                  {group.options.map((option) => (
                    <Select.Item
                      key={option.value}
                      value={option.value}
                      textValue={option.text}
                      className="flex items-center gap-2 rounded-lg py-1 pr-3 pl-2 outline-none data-[highlighted]:bg-bench"
                    >
                      <span className="inline-flex w-4">
                        <Select.ItemIndicator>
                          <Check size={14} />
                        </Select.ItemIndicator>
                      </span>
                      <Select.ItemText>{option.show ?? option.text}</Select.ItemText>
                    </Select.Item>
                  ))}
                </Select.Group>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      )}
    </Select.Root>
  );
}
