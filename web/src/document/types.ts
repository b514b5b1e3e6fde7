// The design document as the server completes it: every field is there.

import type { components } from "../api/schema";

type Schemas = components["schemas"];

export type Design = Schemas["Design-Output"];
export type Art = Design["art"][number];
export type Lettering = Schemas["Lettering-Output"];
export type Drawing = Schemas["Drawing-Output"];
export type TracedPicture = Schemas["TracedPicture-Output"];
export type OutlineArt = Schemas["OutlineArt-Output"];
export type Tracing = TracedPicture["trace"];
export type Shape = Exclude<Art, Lettering | Drawing | TracedPicture | OutlineArt>;
export type ShapeName = Shape["shape"];
export type Layer = Schemas["Layer-Output"];
export type Recipe = Schemas["Recipe-Output"];
export type Step = Recipe["steps"][number];
export type StepOp = Step["op"];
/** Every step by its `op`. */
export type Steps = { [Op in StepOp]: Extract<Step, { op: Op }> };
export type StepOf<Op extends StepOp> = Steps[Op];
/** A place beside a part of some art. */
export type Anchor = Schemas["Anchor-Output"];
export type OwnMaterial = Design["materials"][number];
export type Carving = NonNullable<Design["carving"]>;
export type Level = Carving["levels"][number];
export type Names = NonNullable<Design["names"]>;
export type Column = Names["columns"][number];
export type Own = Names["own"][number];
export type Fit = Names["fits"][number];
export type VBit = Carving["bit"];
export type EndMill = NonNullable<Carving["mill"]>;
export type Tool = VBit | EndMill;
export type Sheet = NonNullable<Design["sheet"]>;
export type Unit = Design["unit"];
export type Process = Layer["process"];
export type HandingOver = Design["hand_over"];
export type Laying = NonNullable<HandingOver["laying"]>;
export type Placed = Laying["placed"][number];
export type KeptFree = Laying["sizes"][number]["kept_free"][number];
export type Leaving = HandingOver["table"]["cut"];
export type Format = HandingOver["formats"][number];
export type Corners = StepOf<"offset">["corners"];
export type Place = Art["place"];
export type LetterMove = Lettering["moves"][string];
export type Against = NonNullable<Art["against"]>;
export type Into = NonNullable<Lettering["into"]>;
export type Line = NonNullable<Lettering["line"]>;
export type TabAt = Schemas["TabReply"];
export type HolesAt = Schemas["HolesReply"];
