// The design of one name of a list: what was changed here can be kept for that name.

import { useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { keepOwn } from "../document/nameList";
import { flush } from "../state/autosave";
import { now, usePart, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { attempt, Failure } from "../ui/Failure";
import { say } from "../ui/toast";

/** Tells the bench to show the list at once. */
const LIST = { state: { list: true } };

export function OfList() {
  const list = usePart((design) => design.of_list);
  const id = useTimeline((state) => state.id);
  const go = useNavigate();
  const [busy, setBusy] = useState(false);
  if (!list) return null;

  const keep = async () => {
    setBusy(true);
    await attempt("list", async () => {
      const state = await api.get(list.design);
      const document = state.timeline[state.at - state.first];
      if (!document) return;
      const { words, changes, told } = await api.listOwn({ document, words: list.words, changed: now() });
      await api.save(list.design, {
        base_revision: state.revision,
        keep_through: state.at,
        add: [keepOwn(document, [{ words, changes }])],
        at: state.at + 1,
      });
      // It has done its work; on the shelf it would only stand beside the list.
      await flush();
      await api.remove(id);
      go(`/design/${list.design}`, LIST);
      say([`What is different for ${words} is kept in the list.`, ...told].join(" "), {
        label: "Keep its design on the shelf, too",
        run: () => void api.restore(id),
      });
    }).finally(() => setBusy(false));
  };
  return (
    <div className="border-line border-b bg-sheet">
      <div className="flex items-center gap-2 px-4 py-1.5">
        <p className="min-w-0 flex-1 truncate">
          <bdi className="font-semibold">{list.words}</bdi>, one name of a list. What you change here can be
          kept for this name: it stays, whatever becomes of the list’s design.
        </p>
        <Button look="main" disabled={busy} onClick={() => void keep()}>
          Keep in the list
        </Button>
        <Button disabled={busy} onClick={() => go(`/design/${list.design}`, LIST)}>
          Back to the list
        </Button>
      </div>
      <Failure place="list" />
    </div>
  );
}
