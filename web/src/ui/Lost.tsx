// A page that cannot be shown: what is the matter, and the way back.

import { Link } from "react-router";

export function Lost({ title, sentence }: { title: string; sentence: string }) {
  return (
    <main className="flex h-full flex-col items-center justify-center gap-2 p-8 text-center">
      <h1 className="font-display font-semibold text-2xl">{title}</h1>
      <p className="max-w-md text-soft">{sentence}</p>
      <Link to="/" className="mt-2 font-semibold text-halo underline underline-offset-4">
        Back to the shelf
      </Link>
    </main>
  );
}
