// Another window saved this design first. Whatever is chosen, the other version stays one undo away or on the shelf.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../api/client";
import { flush } from "../state/autosave";
import { savingAnew, useSaving } from "../state/saving";
import { now, useTimeline } from "../state/timeline";
import { Button } from "../ui/Button";
import { attempt } from "../ui/Failure";
import { say } from "../ui/toast";

export function Conflict() {
  const stale = useSaving((state) => state.saving === "stale");
  const [busy, setBusy] = useState(false);
  const id = useTimeline((state) => state.id);
  const changed = useQuery({
    queryKey: ["changed", id],
    queryFn: () => api.get(id),
    enabled: stale,
    gcTime: 0,
  });
  if (!stale) return null;
  const by = changed.data?.changed_by;

  const settle = async (how: "mine" | "theirs" | "both") => {
    setBusy(true);
    await attempt("bench", async () => {
      const { id, rebase } = useTimeline.getState();
      const theirs = await api.get(id);
      if (how === "both") {
        const mine = now();
        await api.create({ ...mine, name: `${mine.name} (my version)`.slice(0, 200) });
        say("Your version is on the shelf as a design of its own.");
      }
      rebase(theirs, how === "mine");
      savingAnew("waiting");
      await flush();
    }).finally(() => setBusy(false));
  };

  return (
    <div role="alert" className="flex items-center gap-2 border-alarm border-b-2 bg-sheet px-4 py-2">
      <p className="flex-1">
        <strong>This design was changed {by ? `by ${by}` : "in another window"}.</strong> Nothing is lost:
        what you typed is still here, and the version you do not choose stays one undo away.
      </p>
      <Button disabled={busy} onClick={() => settle("mine")}>
        Keep mine
      </Button>
      <Button disabled={busy} onClick={() => settle("theirs")}>
        Take theirs
      </Button>
      <Button disabled={busy} onClick={() => settle("both")}>
        Keep both
      </Button>
    </div>
  );
}
