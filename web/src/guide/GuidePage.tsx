// The maker's guide: twelve jobs, one page each.

import { useEffect } from "react";
import Markdown, { type Components } from "react-markdown";
import { Link, NavLink, useParams } from "react-router";
import remarkGfm from "remark-gfm";
import { Lost } from "../ui/Lost";
import { ThemeButton } from "../ui/ThemeButton";
import { CONTENTS, JOBS, pageAt, pageText, pictureAt } from "./pages";

export default function GuidePage() {
  const { name = CONTENTS } = useParams();
  const text = pageText(name);
  const title = text?.match(/^# (.+)$/m)?.[1];
  useEffect(() => {
    document.title = title ? `${title} – Tin Halo` : "Tin Halo";
    scrollTo(0, 0);
    return () => {
      document.title = "Tin Halo";
    };
  }, [title]);
  if (text === null)
    return (
      <Lost title="No such page" sentence="The guide has no page of that name. Look among the twelve jobs." />
    );
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex items-center gap-3 border-line border-b bg-sheet px-8 py-3 max-sm:px-4">
        <Link to="/" className="font-semibold text-halo underline underline-offset-4">
          The shelf
        </Link>
        <span className="flex-1" />
        <ThemeButton />
      </header>
      <div className="mx-auto flex w-full max-w-5xl flex-1 gap-10 px-8 py-7 max-sm:flex-col max-sm:gap-4 max-sm:px-4">
        <nav aria-label="The guide" className="w-56 shrink-0 max-sm:w-full">
          <ul className="flex flex-col gap-0.5 max-sm:flex-row max-sm:flex-wrap">
            {[[CONTENTS, "All twelve jobs"] as const, ...JOBS].map(([to, called]) => (
              <li key={to}>
                <NavLink
                  end
                  to={to === CONTENTS ? "/guide" : `/guide/${to}`}
                  className="block rounded-lg px-2 py-1 text-soft hover:bg-bench hover:text-ink aria-[current=page]:bg-bench aria-[current=page]:font-semibold aria-[current=page]:text-ink"
                >
                  {called}
                </NavLink>
              </li>
            ))}
          </ul>
        </nav>
        <main className="min-w-0 max-w-2xl flex-1 leading-relaxed">
          <Markdown remarkPlugins={[remarkGfm]} components={LOOK}>
            {text}
          </Markdown>
        </main>
      </div>
    </div>
  );
}

const LOOK: Components = {
  h1: ({ children }) => <h1 className="mb-3 font-display font-semibold text-3xl">{children}</h1>,
  h2: ({ children }) => <h2 className="mt-6 mb-2 font-display font-semibold text-xl">{children}</h2>,
  p: ({ children }) => <p className="my-3">{children}</p>,
  ol: ({ children }) => <ol className="my-3 flex list-decimal flex-col gap-1.5 pl-6">{children}</ol>,
  ul: ({ children }) => <ul className="my-3 flex list-disc flex-col gap-1.5 pl-6">{children}</ul>,
  strong: ({ children }) => <strong className="font-semibold text-ink">{children}</strong>,
  code: ({ children }) => <code className="rounded bg-bench px-1 font-sans">{children}</code>,
  a: ({ href = "", children }) => (
    <Link to={pageAt(href)} className="text-halo underline underline-offset-4">
      {children}
    </Link>
  ),
  img: ({ src = "", alt = "" }) => (
    <img src={pictureAt(String(src))} alt={alt} className="w-full rounded-xl border border-line" />
  ),
  table: ({ children }) => <table className="my-4 w-full border-collapse text-left">{children}</table>,
  th: ({ children }) => <th className="border-line border-b py-1.5 pr-4 font-semibold">{children}</th>,
  td: ({ children }) => <td className="border-line border-b py-1.5 pr-4 align-top">{children}</td>,
};
