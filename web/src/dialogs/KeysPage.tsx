// All keys and gestures on one page.

import { Keyboard } from "lucide-react";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { IconButton } from "../ui/Button";
import { GESTURES, isKey, isTyping, KEYS, type KeyName, keyText } from "../ui/keys";
import { Panel, PanelTitle } from "../ui/Panel";

const NAMES = Object.keys(KEYS) as KeyName[];

export function KeysPage() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (isTyping(event) || !isKey(event, "help")) return;
      event.preventDefault();
      setOpen(true);
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <IconButton label={`Help: guide, keys and gestures (${keyText("help")})`}>
          <Keyboard size={17} />
        </IconButton>
      </Dialog.Trigger>
      <Panel className="max-h-[90vh] w-[52rem] max-w-[94vw]" scrolls>
        <PanelTitle title="Keys and gestures" />
        <p className="mt-1 text-soft">
          Twelve jobs from the first click to the weeded piece are in the{" "}
          <a
            href="/guide"
            target="_blank"
            rel="noreferrer"
            className="font-semibold text-halo underline underline-offset-4"
          >
            maker’s guide
          </a>
          .
        </p>
        <div className="mt-4 columns-2 gap-8 max-sm:columns-1">
          <Part title="Everywhere" rows={NAMES.map((name) => [keyText(name), KEYS[name].does])} />
          {GESTURES.map(([title, rows]) => (
            <Part key={title} title={title} rows={rows} />
          ))}
        </div>
      </Panel>
    </Dialog.Root>
  );
}

function Part({ title, rows }: { title: string; rows: [string, string][] }) {
  return (
    <section className="mb-4 break-inside-avoid">
      <h3 className="mb-1 font-display font-semibold">{title}</h3>
      <dl className="grid grid-cols-[minmax(0,10rem)_minmax(0,1fr)] gap-x-3 gap-y-1">
        {rows.map(([keys, does]) => (
          <div key={keys} className="contents">
            <dt>
              <kbd className="inline-block rounded-md border border-line bg-paper px-1.5 font-sans text-xs">
                {keys}
              </kbd>
            </dt>
            <dd className="text-soft">{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
