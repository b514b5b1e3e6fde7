// Something that takes more than a second: how long it has been at it, and a way out.

import { useEffect, useState } from "react";
import { Button } from "./Button";

type Props = { what: string; busy: boolean; cancel: () => void };

export function Waiting({ what, busy, cancel }: Props) {
  const [passed, setPassed] = useState(0);
  useEffect(() => {
    if (!busy) return;
    const from = performance.now();
    setPassed(0);
    const timer = setInterval(() => setPassed(Math.floor((performance.now() - from) / 1000)), 250);
    return () => clearInterval(timer);
  }, [busy]);
  if (!busy || passed < 1) return null;
  return (
    <p role="status" className="pointer-events-auto flex items-center gap-2 text-soft text-xs">
      <progress aria-label={what} className="w-16 accent-halo" />
      {what}, {passed} s
      <Button look="quiet" className="h-7 px-2" onClick={cancel}>
        Cancel
      </Button>
    </p>
  );
}
