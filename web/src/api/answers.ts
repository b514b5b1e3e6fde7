// What the server answers, by name; and the error that stands for an answer that says no.

import type { components } from "./schema";

type Schemas = components["schemas"];

export type BuildRequest = Schemas["BuildRequest"];
export type BuildReply = Schemas["BuildReply"];
export type ArtReply = Schemas["ArtReply"];
export type PartReply = Schemas["PartReply"];
export type WordReply = Schemas["WordReply"];
export type NoteReply = Schemas["NoteReply"];
export type LayerReply = Schemas["LayerReply"];
export type Finding = Schemas["Finding"];
export type Cause = Schemas["Cause"];
export type Outlook = Schemas["OutlookReply"];
export type Mend = Finding["mends"][number];
export type Change = Mend["changes"][number];
export type FindPlace = Extract<Change, { change: "find_place" }>;
export type Placed = Schemas["PlacedReply"];
export type PlaceLine = Schemas["PlaceLine"];
export type Font = Schemas["FontReply"];
export type Traced = Schemas["TraceReply"];
export type OutlineEdit = Schemas["EditRequest"]["edit"];
export type OutlineLook = Schemas["OutlineReply"];
export type BroughtFile = Schemas["FileReply"];
export type Material = Schemas["MaterialReply"];
export type Summary = Schemas["SummaryReply"];
export type Starter = Schemas["StarterReply"];
export type LeavingFile = Schemas["LeavingFileReply"];
export type Sheets = Schemas["SheetsReply"];
export type Machine = Schemas["MachineReply"];
export type MachineJob = Machine["jobs"][number];
export type MachinePath = Schemas["PathReply"];
export type Piece = Schemas["PieceReply"];
export type DesignState = Schemas["StateReply"];
export type SaveRequest = Schemas["SaveRequest"];
export type ProblemDetails = Schemas["ProblemDetails"];

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
