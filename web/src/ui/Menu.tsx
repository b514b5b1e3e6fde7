// A drop-down menu of actions and choices, on Radix.

import { Check } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { KeyboardEvent, ReactNode } from "react";

const PANEL =
  "z-50 max-h-[min(42rem,var(--radix-dropdown-menu-content-available-height))] min-w-44 overflow-y-auto rounded-xl border border-line bg-sheet p-1 shadow-xl shadow-black/15";
const ITEM =
  "flex items-center gap-2 rounded-lg px-2.5 py-1.5 outline-none data-[disabled]:text-soft data-[highlighted]:bg-bench";

type MenuProps = {
  trigger: ReactNode;
  children: ReactNode;
  side?: "bottom" | "right";
  /** Called when the menu has closed; prevent the event's default to keep the focus from its trigger. */
  onClosed?: (event: Event) => void;
  onOpen?: () => void;
  /** Sees keys before the menu does. */
  onType?: (event: KeyboardEvent) => void;
};

export function Menu(props: MenuProps) {
  const { trigger, children, side = "bottom", onClosed = () => undefined, onOpen, onType } = props;
  return (
    <DropdownMenu.Root modal={false} onOpenChange={(open) => open && onOpen?.()}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className={PANEL}
          side={side}
          onCloseAutoFocus={onClosed}
          onKeyDownCapture={onType}
          sideOffset={4}
          collisionPadding={8}
          // It stays in sight where its card is moved away under it, as when the shelf gets its other designs.
          sticky="always"
          align="start"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

type ItemProps = {
  children: ReactNode;
  onSelect: () => void;
  disabled?: boolean;
  /** Called when it is pointed at, or reached by a key. */
  onNear?: () => void;
  /** Whether the menu stays open. */
  stays?: boolean;
};

export function MenuItem({ children, onSelect, disabled = false, onNear, stays = false }: ItemProps) {
  const choose = (event: Event) => {
    if (stays) event.preventDefault();
    onSelect();
  };
  return (
    <DropdownMenu.Item className={ITEM} onSelect={choose} onFocus={onNear} disabled={disabled}>
      {children}
    </DropdownMenu.Item>
  );
}

/** A choice that can be on or off; the menu stays open, so that several can be made. */
export function MenuCheck({ children, onSelect, disabled = false, on }: ItemProps & { on: boolean }) {
  return (
    <DropdownMenu.CheckboxItem
      className={ITEM}
      checked={on}
      disabled={disabled}
      onSelect={(event) => {
        event.preventDefault();
        onSelect();
      }}
    >
      <span className="inline-flex size-4 items-center justify-center">
        <DropdownMenu.ItemIndicator>
          <Check size={14} />
        </DropdownMenu.ItemIndicator>
      </span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}

export function MenuLabel({ children }: { children: ReactNode }) {
  return <DropdownMenu.Label className="px-2.5 pt-1.5 pb-1 text-soft text-xs">{children}</DropdownMenu.Label>;
}

export function MenuLine() {
  return <DropdownMenu.Separator className="my-1 h-px bg-line" />;
}
