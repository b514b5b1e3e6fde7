// The way to a design's list of names; what is behind it is loaded when it is opened.

import { Users } from "lucide-react";
import { Dialog } from "radix-ui";
import { lazy, Suspense, useState } from "react";
import { useLocation } from "react-router";
import { IconButton } from "../ui/Button";
import { Panel, PanelTitle } from "../ui/Panel";

const NameList = lazy(() => import("./NameList"));

export function NamesButton() {
  // Whoever comes back from one name comes back to the list.
  const { state } = useLocation();
  const [open, setOpen] = useState(state?.list === true);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <IconButton label="A list of names: one piece for each">
          <Users size={16} />
        </IconButton>
      </Dialog.Trigger>
      <Panel className="h-[92vh] w-[74rem] max-w-[96vw]" scrolls>
        <PanelTitle title="A list of names" />
        <Suspense fallback={<p className="text-soft">Opening the list…</p>}>
          <NameList />
        </Suspense>
      </Panel>
    </Dialog.Root>
  );
}
