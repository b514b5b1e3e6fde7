// The typed client. Every error becomes a Problem with a sentence to show.

import createClient from "openapi-fetch";
import { Problem, type ProblemDetails, type SaveRequest } from "./answers";
import { outlasts } from "./outlasts";
import type { components, paths } from "./schema";

export * from "./answers";

type Schemas = components["schemas"];

const client = createClient<paths>({ baseUrl: "" });

/** What an operation answers when all is well, as the schema says it. */
type Answer<Operation> = Operation extends { responses: infer Responses }
  ? {
      [Status in keyof Responses]: Status extends 200 | 201 ? Json<Responses[Status]> : never;
    }[keyof Responses]
  : never;
type Json<Response> = Response extends { content: { "application/json": infer Body } } ? Body : undefined;

type Call = Promise<{ data?: unknown; error?: unknown; response: Response }>;

/** An answer when all is well, or a thrown Problem. */
async function settled(call: Call): Call {
  let result: Awaited<Call>;
  try {
    result = await call;
  } catch {
    throw new Problem(
      0,
      "No answer",
      "Tin Halo's server does not answer. What you did is kept here until it does.",
    );
  }
  if (!result.response.ok) {
    const details: Partial<ProblemDetails> = result.error ?? {};
    throw new Problem(
      result.response.status,
      details.title ?? "Something went wrong",
      details.detail ?? "The server gave no reason.",
    );
  }
  return result;
}

/** The data of an answer, or a thrown Problem. */
async function unwrap<Path extends keyof paths, Method extends keyof paths[Path]>(
  call: Call,
): Promise<Answer<paths[Path][Method]>> {
  // The only place where an answer gets its type: the client's own types would make lists of pairs.
  return (await settled(call)).data as Answer<paths[Path][Method]>;
}

/** What a chosen file holds. Sent as it is, a file that is gone by then would look like a server that is. */
async function bytesOf(file: File): Promise<ArrayBuffer> {
  try {
    return await file.arrayBuffer();
  } catch {
    throw new Problem(0, "File not read", `${file.name} cannot be read: it may have been moved or deleted.`);
  }
}

/** Send bytes as they are: the client only knows JSON. */
async function upload(address: string, body: ArrayBuffer): Call {
  const headers = { "Content-Type": "application/octet-stream" };
  const response = await fetch(address, { method: "POST", body, headers });
  const answer: unknown = await response.json();
  return response.ok ? { data: answer, response } : { error: answer, response };
}

/** An answer that comes line by line, each line JSON; a thrown Problem where there is none. */
async function* lines<Line>(address: string, body: unknown, signal: AbortSignal): AsyncGenerator<Line> {
  const headers = { "Content-Type": "application/json" };
  const call = fetch(address, { method: "POST", headers, body: JSON.stringify(body), signal }).then(
    async (response) => (response.ok ? { response } : { response, error: await response.json() }),
  );
  const { response } = await settled(call);
  const reader = response.body?.pipeThrough(new TextDecoderStream()).getReader();
  let rest = "";
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    const [last, ...whole] = (rest + part.value).split("\n").toReversed();
    rest = last ?? "";
    for (const line of whole.toReversed()) yield JSON.parse(line) as Line;
  }
}

/** An answer that is a file, with the name that it is to have. */
async function file(call: Call): Promise<{ data: Blob; name: string }> {
  const { data, response } = await settled(call);
  const said = response.headers.get("Content-Disposition") ?? "";
  return { data: data as Blob, name: decodeURIComponent(said.split("''")[1] ?? "file") };
}

/** Gives a request a name, so that it can be asked how far it is. */
const called = (name: string) => ({ headers: { "X-Progress": name } });

/** Lets a few calls at a time through: the server's computing would only slow itself down. */
function fewAtATime(most: number) {
  const waiting: (() => void)[] = [];
  let running = 0;
  return async <T>(call: () => Promise<T>): Promise<T> => {
    if (running >= most) await new Promise<void>((go) => waiting.push(go));
    running++;
    try {
      return await call();
    } finally {
      running--;
      waiting.shift()?.();
    }
  };
}

const trying = fewAtATime(2);

export const api = {
  fonts: () => unwrap<"/api/fonts", "get">(client.GET("/api/fonts")),
  sample: (font: string, text: string, size: number) =>
    trying(() =>
      unwrap<"/api/fonts/{font}/sample", "get">(
        client.GET("/api/fonts/{font}/sample", { params: { path: { font }, query: { text, size } } }),
      ),
    ),
  features: (font: string, text: string) =>
    unwrap<"/api/fonts/{font}/features", "get">(
      client.GET("/api/fonts/{font}/features", { params: { path: { font }, query: { text } } }),
    ),
  addFont: async (file: File) => {
    const address = `/api/fonts?${new URLSearchParams({ name: file.name.slice(0, 200) })}`;
    return unwrap<"/api/fonts", "post">(upload(address, await bytesOf(file)));
  },
  trace: (body: Schemas["TracedPicture-Input"], signal?: AbortSignal) =>
    unwrap<"/api/files/trace", "post">(
      client.POST("/api/files/trace", { body, ...(signal ? { signal } : {}) }),
    ),
  turnArt: (body: Schemas["TurnRequest"]) =>
    unwrap<"/api/outlines/turn", "post">(client.POST("/api/outlines/turn", { body })),
  splitWords: (body: Schemas["SplitRequest"]) =>
    unwrap<"/api/words/split", "post">(client.POST("/api/words/split", { body })),
  editOutline: (body: Schemas["EditRequest"], signal?: AbortSignal) =>
    unwrap<"/api/outlines/edit", "post">(
      client.POST("/api/outlines/edit", { body, ...(signal ? { signal } : {}) }),
    ),
  lookAtOutline: (body: Schemas["OutlineRequest"], signal: AbortSignal) =>
    unwrap<"/api/outlines/look", "post">(client.POST("/api/outlines/look", { body, signal })),
  openFile: async (file: File) =>
    unwrap<"/api/designs/file", "post">(upload("/api/designs/file", await bytesOf(file))),
  shippedDrawings: () => unwrap<"/api/files/shipped", "get">(client.GET("/api/files/shipped")),
  file: (id: string) =>
    unwrap<"/api/files/{id}", "get">(client.GET("/api/files/{id}", { params: { path: { id } } })),
  bringEmbedded: (id: string, number: number) =>
    unwrap<"/api/files/{id}/pictures/{number}", "post">(
      client.POST("/api/files/{id}/pictures/{number}", { params: { path: { id, number } } }),
    ),
  bringIn: async (file: File) => {
    const address = `/api/files?${new URLSearchParams({ name: file.name.slice(0, 200) })}`;
    return unwrap<"/api/files", "post">(upload(address, await bytesOf(file)));
  },
  removeFont: (font: string) =>
    unwrap<"/api/fonts/{font}", "delete">(client.DELETE("/api/fonts/{font}", { params: { path: { font } } })),
  noteLicence: (font: string, note: string) =>
    unwrap<"/api/fonts/{font}/licence", "put">(
      client.PUT("/api/fonts/{font}/licence", { params: { path: { font } }, body: { note } }),
    ),
  proof: (body: Schemas["ProofRequest"], signal: AbortSignal, request: string) =>
    file(client.POST("/api/proof", { body, signal, parseAs: "blob", ...called(request) })),
  contactSheet: (body: Schemas["ContactSheetRequest"], signal: AbortSignal, request: string) =>
    file(client.POST("/api/proof/side-by-side", { body, signal, parseAs: "blob", ...called(request) })),
  waysSheet: (body: Schemas["WaysSheetRequest"], signal: AbortSignal, request: string) =>
    file(client.POST("/api/proof/colour-ways", { body, signal, parseAs: "blob", ...called(request) })),
  inTheRound: async (body: Schemas["RoundRequest"], signal: AbortSignal) => {
    const { data } = await settled(client.POST("/api/round", { body, signal, parseAs: "arrayBuffer" }));
    return data as ArrayBuffer;
  },
  colourWays: (document: Schemas["WaysRequest"]["document"], signal: AbortSignal) =>
    unwrap<"/api/colour-ways/pictures", "post">(
      client.POST("/api/colour-ways/pictures", { body: { document }, signal }),
    ),
  solids: (document: Schemas["SolidsRequest"]["document"], signal: AbortSignal) =>
    unwrap<"/api/solids/look", "post">(client.POST("/api/solids/look", { body: { document }, signal })),
  readTable: async (file: File) => {
    const address = `/api/names/file?${new URLSearchParams({ name: file.name.slice(0, 200) })}`;
    return unwrap<"/api/names/file", "post">(upload(address, await bytesOf(file)));
  },
  readList: (text: string) =>
    unwrap<"/api/names/text", "post">(client.POST("/api/names/text", { body: { text } })),
  listColumns: (body: Schemas["ColumnsRequest"]) =>
    unwrap<"/api/names/columns", "post">(client.POST("/api/names/columns", { body })),
  listRow: (body: Schemas["RowRequest"], signal: AbortSignal) =>
    unwrap<"/api/names/row", "post">(client.POST("/api/names/row", { body, signal })),
  progress: (name: string) =>
    unwrap<"/api/progress/{name}", "get">(client.GET("/api/progress/{name}", { params: { path: { name } } })),
  listOwn: (body: Schemas["OwnRequest"]) =>
    unwrap<"/api/names/own", "post">(client.POST("/api/names/own", { body })),
  mendRow: (body: Schemas["MendRowRequest"], signal: AbortSignal) =>
    unwrap<"/api/names/mend", "post">(client.POST("/api/names/mend", { body, signal })),
  listPacks: async (document: Schemas["PacksRequest"]["document"], signal: AbortSignal, name: string) => {
    const { data } = await settled(
      client.POST("/api/names/packs", { body: { document }, signal, parseAs: "blob", ...called(name) }),
    );
    return data as Blob;
  },
  carving: (document: Schemas["CarvingRequest"]["document"], signal: AbortSignal, name: string) =>
    unwrap<"/api/carving", "post">(
      client.POST("/api/carving", { body: { document }, signal, ...called(name) }),
    ),
  relief: async (body: Schemas["ReliefRequest"], signal: AbortSignal, name: string) => {
    const { data } = await settled(
      client.POST("/api/carving/relief", { body, signal, parseAs: "arrayBuffer", ...called(name) }),
    );
    return data as ArrayBuffer;
  },
  section: (body: Schemas["SectionRequest"], signal: AbortSignal) =>
    unwrap<"/api/carving/section", "post">(client.POST("/api/carving/section", { body, signal })),
  jobRelief: async (id: number, signal: AbortSignal) => {
    const { data } = await settled(
      client.GET("/api/jobs/{id}/relief", { params: { path: { id } }, signal, parseAs: "arrayBuffer" }),
    );
    return data as ArrayBuffer;
  },
  tools: () => unwrap<"/api/tools", "get">(client.GET("/api/tools")),
  saveTool: (body: Schemas["ToolReply"]["tool"]) =>
    unwrap<"/api/tools", "put">(client.PUT("/api/tools", { body })),
  removeTool: (name: string) =>
    unwrap<"/api/tools/{name}", "delete">(client.DELETE("/api/tools/{name}", { params: { path: { name } } })),
  materials: () => unwrap<"/api/materials", "get">(client.GET("/api/materials")),
  material: (id: string) =>
    unwrap<"/api/materials/{id}", "get">(client.GET("/api/materials/{id}", { params: { path: { id } } })),
  saveMaterial: (body: Schemas["Material-Input"]) =>
    unwrap<"/api/materials/{id}", "put">(
      client.PUT("/api/materials/{id}", { params: { path: { id: body.id } }, body }),
    ),
  removeMaterial: (id: string) =>
    unwrap<"/api/materials/{id}", "delete">(
      client.DELETE("/api/materials/{id}", { params: { path: { id } } }),
    ),
  notice: () => unwrap<"/api/notice", "get">(client.GET("/api/notice")),
  forgetNotice: () => unwrap<"/api/notice", "delete">(client.DELETE("/api/notice")),
  designs: () => unwrap<"/api/designs", "get">(client.GET("/api/designs")),
  here: (id: string, window: string) =>
    unwrap<"/api/designs/{id}/here", "post">(
      client.POST("/api/designs/{id}/here", {
        params: { path: { id } },
        body: { window, leaving: false },
      }),
    ),
  /** Said while the page goes away: nobody waits for the answer. */
  leave: (id: string, window: string) => {
    client
      .POST("/api/designs/{id}/here", {
        params: { path: { id } },
        body: { window, leaving: true },
        keepalive: true,
      })
      .catch(() => undefined);
  },
  create: (document: Schemas["Design-Input"]) =>
    unwrap<"/api/designs", "post">(client.POST("/api/designs", { body: { document } })),
  get: (id: string) =>
    unwrap<"/api/designs/{id}", "get">(client.GET("/api/designs/{id}", { params: { path: { id } } })),
  /** Goes on where the page goes away meanwhile, as far as that can be. */
  save: (id: string, body: SaveRequest) =>
    unwrap<"/api/designs/{id}", "put">(
      client.PUT("/api/designs/{id}", { params: { path: { id } }, body, keepalive: outlasts(body) }),
    ),
  putInto: (ids: string[], folder: string) =>
    unwrap<"/api/designs/folder", "post">(client.POST("/api/designs/folder", { body: { ids, folder } })),
  rename: (id: string, name: string) =>
    unwrap<"/api/designs/{id}", "patch">(
      client.PATCH("/api/designs/{id}", { params: { path: { id } }, body: { name } }),
    ),
  duplicate: (id: string) =>
    unwrap<"/api/designs/{id}/duplicate", "post">(
      client.POST("/api/designs/{id}/duplicate", { params: { path: { id } } }),
    ),
  remove: (id: string) =>
    unwrap<"/api/designs/{id}", "delete">(client.DELETE("/api/designs/{id}", { params: { path: { id } } })),
  restore: (id: string) =>
    unwrap<"/api/designs/{id}/restore", "post">(
      client.POST("/api/designs/{id}/restore", { params: { path: { id } } }),
    ),
  resize: (body: Schemas["ResizeRequest"]) =>
    unwrap<"/api/resize", "post">(client.POST("/api/resize", { body })),
  begin: (id: string, text: string) =>
    unwrap<"/api/starters/{id}/begin", "post">(
      client.POST("/api/starters/{id}/begin", { params: { path: { id } }, body: { text } }),
    ),
  starters: () => unwrap<"/api/starters", "get">(client.GET("/api/starters")),
  saveStarter: (title: string, document: Schemas["Design-Input"]) =>
    unwrap<"/api/starters", "post">(client.POST("/api/starters", { body: { title, document } })),
  removeStarter: (id: string) =>
    unwrap<"/api/starters/{id}", "delete">(client.DELETE("/api/starters/{id}", { params: { path: { id } } })),
  formats: () => unwrap<"/api/formats", "get">(client.GET("/api/formats")),
  leaving: (document: Schemas["Design-Input"], signal: AbortSignal) =>
    unwrap<"/api/leaving", "post">(client.POST("/api/leaving", { body: { document }, signal })),
  files: (id: string, signal: AbortSignal, request: string) =>
    file(
      client.GET("/api/designs/{id}/files", {
        params: { path: { id } },
        signal,
        parseAs: "blob",
        ...called(request),
      }),
    ),
  tables: () => unwrap<"/api/tables", "get">(client.GET("/api/tables")),
  saveTable: (name: string, body: Schemas["Table-Input"]) =>
    unwrap<"/api/tables/{name}", "put">(
      client.PUT("/api/tables/{name}", { params: { path: { name } }, body }),
    ),
  removeTable: (name: string) =>
    unwrap<"/api/tables/{name}", "delete">(
      client.DELETE("/api/tables/{name}", { params: { path: { name } } }),
    ),
  stage: (body: Schemas["StageRequest"], signal: AbortSignal) =>
    unwrap<"/api/stage", "post">(client.POST("/api/stage", { body, signal })),
  heat: (body: Schemas["HeatRequest"], signal: AbortSignal) =>
    unwrap<"/api/heat", "post">(client.POST("/api/heat", { body, signal })),
  meetings: (body: Schemas["MeetingRequest"], signal: AbortSignal) =>
    unwrap<"/api/meetings", "post">(client.POST("/api/meetings", { body, signal })),
  pieces: (document: Schemas["Design-Input"], layer: string) =>
    unwrap<"/api/pieces", "post">(client.POST("/api/pieces", { body: { document, layer } })),
  sheets: (document: Schemas["Design-Input"], of: Schemas["SheetsRequest"]["of"], signal: AbortSignal) =>
    unwrap<"/api/sheets/look", "post">(client.POST("/api/sheets/look", { body: { document, of }, signal })),
  lay: (
    document: Schemas["Design-Input"],
    of: Schemas["SheetsRequest"]["of"],
    fill: boolean,
    signal: AbortSignal,
    name: string,
  ) =>
    unwrap<"/api/sheets/lay", "post">(
      client.POST("/api/sheets/lay", { body: { document, of, fill }, signal, ...called(name) }),
    ),
  paths: (document: Schemas["Design-Input"], signal: AbortSignal) =>
    unwrap<"/api/paths", "post">(client.POST("/api/paths", { body: { document }, signal })),
  machines: () => unwrap<"/api/machines", "get">(client.GET("/api/machines")),
  press: (id: string, body: Schemas["PanelRequest"]) =>
    unwrap<"/api/machines/{id}/panel", "post">(
      client.POST("/api/machines/{id}/panel", { params: { path: { id } }, body }),
    ),
  sendJob: (id: string, body: Schemas["SendRequest"]) =>
    unwrap<"/api/machines/{id}/jobs", "post">(
      client.POST("/api/machines/{id}/jobs", { params: { path: { id } }, body }),
    ),
  fit: (body: Schemas["SendRequest"], signal: AbortSignal) =>
    unwrap<"/api/machines/fit", "post">(client.POST("/api/machines/fit", { body, signal })),
  clearJobs: (id: string) =>
    unwrap<"/api/machines/{id}/jobs", "delete">(
      client.DELETE("/api/machines/{id}/jobs", { params: { path: { id } } }),
    ),
  cancelJob: (id: number) =>
    unwrap<"/api/jobs/{id}", "delete">(client.DELETE("/api/jobs/{id}", { params: { path: { id } } })),
  again: (id: number) =>
    unwrap<"/api/jobs/{id}/again", "post">(client.POST("/api/jobs/{id}/again", { params: { path: { id } } })),
  jobTrace: (id: number) =>
    unwrap<"/api/jobs/{id}/trace", "get">(client.GET("/api/jobs/{id}/trace", { params: { path: { id } } })),
  mend: (body: Schemas["MendRequest"], signal: AbortSignal) =>
    unwrap<"/api/mend", "post">(client.POST("/api/mend", { body, signal })),
  seekPlace: (body: Schemas["PlaceRequest"], signal: AbortSignal) =>
    lines<Schemas["PlaceLine"]>("/api/places", body, signal),
  lookAhead: (body: Schemas["OutlookRequest"], signal: AbortSignal) =>
    unwrap<"/api/mend/outlook", "post">(client.POST("/api/mend/outlook", { body, signal })),
  followMend: (body: Schemas["FollowRequest"], signal: AbortSignal) =>
    unwrap<"/api/mend/follow", "post">(client.POST("/api/mend/follow", { body, signal })),
  build: (body: Schemas["BuildRequest"], signal: AbortSignal) =>
    unwrap<"/api/build", "post">(client.POST("/api/build", { body, signal })),
};
