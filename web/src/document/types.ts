// The design document as the server completes it: every field is there.

import type { components } from "../api/schema";

type Schemas = components["schemas"];

export type Design = Schemas["Design-Output"];
export type Lettering = Schemas["Lettering-Output"];
export type Layer = Schemas["Layer-Output"];
export type Recipe = Schemas["Recipe-Output"];
export type Step = Recipe["steps"][number];
export type StepOp = Step["op"];
export type StepOf<Op extends StepOp> = Extract<Step, { op: Op }>;
export type Spot = Extract<Step, { op: "keep" }>["pieces"][number];
export type OwnMaterial = Design["materials"][number];
export type Sheet = NonNullable<Design["sheet"]>;
export type Unit = Design["unit"];
export type Process = Layer["process"];
export type Corners = StepOf<"offset">["corners"];
export type Place = Lettering["place"];
export type LetterMove = Lettering["moves"][string];
export type Against = NonNullable<Lettering["against"]>;
export type TabAt = Schemas["TabReply"];
export type HolesAt = Schemas["HolesReply"];
