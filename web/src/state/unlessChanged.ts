// What the server makes of a document, taken only while that still stands.

import { attempt, fail } from "../ui/Failure";
import { now } from "./timeline";

/** Nothing is thrown away: what was typed meanwhile stays, and it is said why nothing was done. */
export async function unlessChanged<Made>(
  ask: () => Promise<Made>,
  take: (made: Made) => void,
): Promise<void> {
  const before = now();
  const made = await attempt("art", ask);
  if (made === undefined) return;
  if (now() === before) take(made);
  else fail("art", "The design changed meanwhile. Try again.");
}
