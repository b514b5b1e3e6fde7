// The typed client. Every error becomes a Problem with a sentence to show.

import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];

export type BuildReply = Schemas["BuildReply"];
export type ArtReply = Schemas["ArtReply"];
export type LetterReply = Schemas["LetterReply"];
export type WordReply = Schemas["WordReply"];
export type NoteReply = Schemas["NoteReply"];
export type LayerReply = Schemas["LayerReply"];
export type Finding = Schemas["Finding"];
export type Mend = Finding["mends"][number];
type MendReply = Schemas["MendReply"];
type FollowReply = Schemas["FollowReply"];
export type Font = Schemas["FontReply"];
export type Sample = Schemas["SampleReply"];
export type Material = Schemas["MaterialReply"];
export type Summary = Schemas["SummaryReply"];
export type Starter = Schemas["StarterReply"];
export type Piece = Schemas["PieceReply"];
export type DesignState = Schemas["StateReply"];
export type SaveRequest = Schemas["SaveRequest"];

/** An error the app can explain. `status` is 0 when the server did not answer. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly sentence: string,
  ) {
    super(sentence);
  }
}

const client = createClient<paths>({ baseUrl: "" });

/** The data of an answer, or a thrown Problem. */
async function unwrap<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let result: Awaited<typeof call>;
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
    const details = (result.error ?? {}) as Partial<Schemas["ProblemDetails"]>;
    throw new Problem(
      result.response.status,
      details.title ?? "Something went wrong",
      details.detail ?? "The server gave no reason.",
    );
  }
  return result.data as T;
}

/** What a chosen file holds. Sent as it is, a file that is gone by then would look like a server that is. */
async function bytesOf(file: File): Promise<ArrayBuffer> {
  try {
    return await file.arrayBuffer();
  } catch {
    throw new Problem(0, "File not read", `${file.name} cannot be read: it may have been moved or deleted.`);
  }
}

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
  fonts: () => unwrap(client.GET("/api/fonts")),
  sample: (font: string, text: string, size: number) =>
    trying(() =>
      unwrap(
        client.GET("/api/fonts/{font}/sample", {
          params: { path: { font }, query: { text, size } },
        }) as Promise<{ data?: Sample; response: Response }>,
      ),
    ),
  features: (font: string, text: string) =>
    unwrap(client.GET("/api/fonts/{font}/features", { params: { path: { font }, query: { text } } })),
  addFont: async (file: File) => {
    const body = await bytesOf(file);
    return unwrap(
      client.POST("/api/fonts", {
        params: { query: { name: file.name.slice(0, 200) } },
        body: body as unknown as string,
        bodySerializer: (bytes) => bytes as unknown as ArrayBuffer,
        headers: { "Content-Type": "application/octet-stream" },
      }),
    );
  },
  removeFont: (font: string) => unwrap(client.DELETE("/api/fonts/{font}", { params: { path: { font } } })),
  materials: () => unwrap(client.GET("/api/materials")),
  material: (id: string) => unwrap(client.GET("/api/materials/{id}", { params: { path: { id } } })),
  saveMaterial: (material: Schemas["Material-Input"]) =>
    unwrap(client.PUT("/api/materials/{id}", { params: { path: { id: material.id } }, body: material })),
  removeMaterial: (id: string) => unwrap(client.DELETE("/api/materials/{id}", { params: { path: { id } } })),
  designs: () => unwrap(client.GET("/api/designs")),
  create: (document: Schemas["Design-Input"]) => unwrap(client.POST("/api/designs", { body: { document } })),
  get: (id: string) => unwrap(client.GET("/api/designs/{id}", { params: { path: { id } } })),
  save: (id: string, body: SaveRequest, keepalive = false) =>
    unwrap(client.PUT("/api/designs/{id}", { params: { path: { id } }, body, keepalive })),
  rename: (id: string, name: string) =>
    unwrap(client.PATCH("/api/designs/{id}", { params: { path: { id } }, body: { name } })),
  duplicate: (id: string) => unwrap(client.POST("/api/designs/{id}/duplicate", { params: { path: { id } } })),
  remove: (id: string) => unwrap(client.DELETE("/api/designs/{id}", { params: { path: { id } } })),
  restore: (id: string) => unwrap(client.POST("/api/designs/{id}/restore", { params: { path: { id } } })),
  resize: (body: Schemas["ResizeRequest"]) =>
    unwrap(
      client.POST("/api/resize", { body }) as Promise<{
        data?: Schemas["Design-Output"];
        response: Response;
      }>,
    ),
  starters: () => unwrap(client.GET("/api/starters") as Promise<{ data?: Starter[]; response: Response }>),
  saveStarter: (title: string, document: Schemas["Design-Input"]) =>
    unwrap(client.POST("/api/starters", { body: { title, document } })),
  removeStarter: (id: string) => unwrap(client.DELETE("/api/starters/{id}", { params: { path: { id } } })),
  stage: (body: Schemas["StageRequest"], signal: AbortSignal) =>
    unwrap(client.POST("/api/stage", { body, signal })),
  heat: (body: Schemas["HeatRequest"], signal: AbortSignal) =>
    unwrap(client.POST("/api/heat", { body, signal })),
  pieces: (document: Schemas["Design-Input"], layer: string) =>
    unwrap(
      client.POST("/api/pieces", { body: { document, layer } }) as Promise<{
        data?: Piece[];
        response: Response;
      }>,
    ),
  mend: (body: Schemas["MendRequest"], signal: AbortSignal) =>
    unwrap(client.POST("/api/mend", { body, signal }) as Promise<{ data?: MendReply; response: Response }>),
  followMend: (body: Schemas["FollowRequest"], signal: AbortSignal) =>
    unwrap(
      client.POST("/api/mend/follow", { body, signal }) as Promise<{
        data?: FollowReply;
        response: Response;
      }>,
    ),
  // The client's own types widen tuples to arrays; the schema's are exact.
  build: (body: Schemas["BuildRequest"], signal: AbortSignal) =>
    unwrap(client.POST("/api/build", { body, signal }) as Promise<{ data?: BuildReply; response: Response }>),
};
