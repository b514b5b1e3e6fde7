// The maker's guide, as it stands in docs/guide, with its pictures.

const TEXTS = import.meta.glob<string>("../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const PICTURES = import.meta.glob<string>(
  ["../../../docs/screenshots/bench*.png", "../../../docs/screenshots/sheet.png"],
  { query: "?url", import: "default", eager: true },
);

/** The page that lists the others. */
export const CONTENTS = "README";

const byName = (files: Record<string, string>) =>
  new Map(Object.entries(files).map(([path, one]) => [path.split("/").at(-1) ?? path, one]));

const texts = byName(TEXTS);
const pictures = byName(PICTURES);

/** The text of a page, or null where there is none with that name. */
export const pageText = (name: string): string | null => texts.get(`${name}.md`) ?? null;

/** Where a picture of the guide is. */
export const pictureAt = (src: string): string => pictures.get(src.split("/").at(-1) ?? "") ?? src;

/** The address of another page, from what a page says. */
export const pageAt = (href: string): string => (href.endsWith(".md") ? `/guide/${href.slice(0, -3)}` : href);

/** Name and title of each job, in the order of the contents. */
export const JOBS: [string, string][] = [
  ...(texts.get(`${CONTENTS}.md`) ?? "").matchAll(/^\d+\. \[(.+)\]\((.+)\.md\)$/gm),
].map(([, title = "", name = ""]) => [name, title]);
