// Several designs, or one in its colour ways, side by side on one page.

import { LayoutGrid } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Panel, PanelTitle } from "../ui/Panel";
import { type Page, SavePage } from "./SavePage";

const SCALES = [
  { value: "each" as const, text: "each as large as there is room" },
  { value: "one" as const, text: "all at one scale" },
];

type Sheet = Page & { one_scale: boolean };
type Props = {
  /** What is on it, as a sentence. */
  about: string;
  make: (sheet: Sheet, signal: AbortSignal, request: string) => Promise<{ data: Blob; name: string }>;
};

export function ContactSheet({ about, make }: Props) {
  const [scale, setScale] = useState<"each" | "one">("each");
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button>
          <LayoutGrid size={15} /> Contact sheet
        </Button>
      </Dialog.Trigger>
      <Panel className="w-[30rem] max-w-[94vw] p-6">
        <PanelTitle title="Contact sheet" />
        <p className="mt-3 text-soft">{about}</p>
        <SavePage
          what="contact sheet"
          make={(page, signal, request) => make({ ...page, one_scale: scale === "one" }, signal, request)}
        >
          ,{" "}
          <Choice
            inline
            label="Scale of the contact sheet"
            value={scale}
            groups={[{ options: SCALES }]}
            onChange={setScale}
          />
        </SavePage>
      </Panel>
    </Dialog.Root>
  );
}
