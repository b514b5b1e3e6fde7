// Something that takes more than a second: how much of it is done, how long it has been at it, and a way out.

import { useEffect, useState } from "react";
import { api } from "../api/client";
import { freshId } from "../api/freshId";
import { Button } from "./Button";

/** What a request is called so that it can be asked how far it is; the same as long as the component is there. */
export const useRequestName = (): string => useState(freshId)[0];

type Props = { what: string; busy: boolean; cancel: () => void; name: string };

const LOOK_MS = 400;

export function Waiting({ what, busy, cancel, name }: Props) {
  const [passed, setPassed] = useState(0);
  const [share, setShare] = useState<number | null>(null);
  useEffect(() => {
    if (!busy) return;
    const from = performance.now();
    setPassed(0);
    setShare(null);
    let over = false;
    const timer = setInterval(async () => {
      setPassed(Math.floor((performance.now() - from) / 1000));
      // Without an answer it is only not known how far it is.
      const told = await api.progress(name).catch(() => null);
      if (!over && told?.share != null) setShare(told.share);
    }, LOOK_MS);
    return () => {
      over = true;
      clearInterval(timer);
    };
  }, [busy, name]);
  if (!busy || passed < 1) return null;
  return (
    <p role="status" className="pointer-events-auto flex items-center gap-2 text-soft text-xs">
      <progress
        aria-label={what}
        className="w-24 accent-halo"
        {...(share === null ? {} : { value: share })}
      />
      {what}, {share === null ? `${passed} s` : `${Math.round(share * 100)} %`}
      <Button look="quiet" className="h-7 px-2" onClick={cancel}>
        Cancel
      </Button>
    </p>
  );
}
