// What could not be done, told where it was asked for until it is closed, tried again, or done.

import { X } from "lucide-react";
import { useEffect } from "react";
import { create } from "zustand";
import { Problem } from "../api/answers";
import { IconButton } from "./Button";

/** Where a failure belongs: a part of the screen, or a dialog. */
export type Place =
  | "shelf"
  | "bench"
  | "art"
  | "fonts"
  | "findings"
  | "names"
  | "list"
  | "machines"
  | "sending"
  | "tables"
  | "tools";

const useFailures = create<Partial<Record<Place, string>>>()(() => ({}));

export function fail(place: Place, sentence: string): void {
  useFailures.setState({ [place]: sentence });
}

export function forget(place: Place): void {
  useFailures.setState({ [place]: undefined });
}

/** What a call gives; undefined where the server said no, which is told at its place. Other errors are ours. */
export async function attempt<Made>(place: Place, call: () => Promise<Made>): Promise<Made | undefined> {
  forget(place);
  try {
    return await call();
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    fail(place, error.sentence);
    return undefined;
  }
}

export function Failure({ place, className = "" }: { place: Place; className?: string }) {
  const sentence = useFailures((state) => state[place]);
  // It belongs to what was shown here: the next design or dialog begins without it.
  useEffect(() => () => forget(place), [place]);
  if (!sentence) return null;
  return (
    <div role="alert" className={`flex items-center gap-2 bg-sheet px-4 py-1 text-alarm ${className}`}>
      <p className="min-w-0 flex-1 [overflow-wrap:anywhere]">{sentence}</p>
      <IconButton label="Close this failure" onClick={() => forget(place)}>
        <X size={15} />
      </IconButton>
    </div>
  );
}
