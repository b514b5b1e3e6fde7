// How each step reads. The record is typed by the union that the API's schema gives: a step without a phrase
// does not compile.

import type { ReactNode } from "react";
import type { StepOp } from "../../document/types";
import {
  BleedPhrase,
  BridgePhrase,
  CloseGapsPhrase,
  OffsetPhrase,
  OpenGapsPhrase,
  OutlinePhrase,
  StencilPhrase,
  UnderlapPhrase,
  WallPhrase,
} from "./borders";
import { CutNote } from "./CutNote";
import { FillHolesPhrase, HolePhrase, TabPhrase } from "./holes";
import { DropPhrase, KeepPhrase, StitchPhrase, TidyPhrase } from "./marks";
import type { Phrase, PhraseProps } from "./parts";
import { BlockShadowPhrase, DropShadowPhrase, PlacePhrase, PlatePhrase, RoundOffPhrase } from "./shapes";
import { ThickenPhrase } from "./ThickenPhrase";

export type StepPhrase<Op extends StepOp> = {
  title: string;
  does: string;
  /** Which part of the list of steps it is offered in; steps that come from picking are not. */
  group: "Borders" | "Holes" | "Shapes and shadows" | "With other shapes" | "Finishing" | null;
  /** What the small drawing shows, on 24 by 24: soft is what was there, halo what the step makes. */
  drawing: ReactNode;
  Phrase: Phrase<Op>;
  /** What stands behind the operand of a step that has one. */
  After?: (props: PhraseProps<Op>) => ReactNode;
};

const MADE = "fill-glow/30 stroke-halo";
const WAS = "fill-soft";
const LINE = "fill-none stroke-halo";

export const PHRASES: { [Op in StepOp]: StepPhrase<Op> } = {
  offset: {
    title: "Grow or shrink",
    does: "An offset: a border, or thinner",
    group: "Borders",
    drawing: (
      <>
        <path d="M5,16V9a7,7 0 0 1 14,0v7a3,3 0 0 1-3,3H8a3,3 0 0 1-3-3Z" className={MADE} />
        <path d="M9,15V9a3,3 0 0 1 6,0v6Z" className={WAS} />
      </>
    ),
    Phrase: OffsetPhrase,
  },
  outline: {
    title: "Line around",
    does: "A line at a distance, all round",
    group: "Borders",
    drawing: (
      <>
        <rect x="8" y="7" width="8" height="10" className={WAS} />
        <rect x="4" y="3" width="16" height="18" className={LINE} strokeWidth={2} />
      </>
    ),
    Phrase: OutlinePhrase,
  },
  close_gaps: {
    title: "Close gaps",
    does: "Makes one backer of separate borders",
    group: "Borders",
    drawing: (
      <>
        <rect x="9.5" y="6" width="5" height="12" className={MADE} />
        <path d="M3,6h6.5v12H3ZM14.5,6H21v12h-6.5Z" className={WAS} />
      </>
    ),
    Phrase: CloseGapsPhrase,
  },
  open_gaps: {
    title: "Widen gaps",
    does: "Brings gaps too tight to cut up to a width",
    group: "Borders",
    drawing: (
      <>
        <path d="M3,5h8v14H3ZM13,5h8v14h-8Z" className={WAS} />
        <path d="M9.5,4h5v16h-5Z" className="fill-sheet stroke-halo" strokeDasharray="2 2" />
      </>
    ),
    Phrase: OpenGapsPhrase,
  },
  bridge: {
    title: "Bridge pieces",
    does: "Joins loose pieces by short bars",
    group: "Borders",
    drawing: (
      <>
        <path d="M8,10.5h8v3h-8Z" className={MADE} />
        <circle cx="5.5" cy="12" r="3.5" className={WAS} />
        <path d="M16,5h5v14h-5Z" className={WAS} />
      </>
    ),
    Phrase: BridgePhrase,
  },
  wall: {
    title: "Wall along the edge",
    does: "For dough and clay cutters",
    group: "Borders",
    drawing: (
      <path d="M12,20C2,13 4,4 9,5q2,0 3,3q1-3 3-3c5-1 7,8-3,15Z" className={LINE} strokeWidth={2.5} />
    ),
    Phrase: WallPhrase,
  },
  fill_holes: {
    title: "Fill holes",
    does: "All, so that only outer edges are left; the small ones; or picked ones",
    group: "Holes",
    drawing: (
      <>
        <circle cx="12" cy="12" r="8" className={WAS} />
        <circle cx="12" cy="12" r="3.5" className="fill-glow/60 stroke-halo" />
      </>
    ),
    Phrase: FillHolesPhrase,
  },
  tab: {
    title: "Ring tab",
    does: "With its hole, anywhere on the edge",
    group: "Holes",
    drawing: (
      <>
        <rect x="3" y="11" width="18" height="10" rx="3" className={WAS} />
        <path d="M7,12V7a4,4 0 0 1 8,0v5Z" className={MADE} />
        <circle cx="11" cy="7" r="1.6" className="fill-sheet stroke-halo" />
      </>
    ),
    Phrase: TabPhrase,
  },
  hole: {
    title: "Hole, or a row",
    does: "For screws, eyelets and cords",
    group: "Holes",
    drawing: (
      <>
        <rect x="2" y="6" width="20" height="12" rx="2" className={WAS} />
        <circle cx="6.5" cy="12" r="2" className="fill-sheet stroke-halo" />
        <circle cx="17.5" cy="12" r="2" className="fill-sheet stroke-halo" />
      </>
    ),
    Phrase: HolePhrase,
  },
  stencil: {
    title: "Stencil bridges",
    does: "Bars that hold what stands in a hole",
    group: "Holes",
    drawing: (
      <>
        <path d="M2,2h20v20H2ZM5,5v14h14V5Z" fillRule="evenodd" className={WAS} />
        <circle cx="12" cy="12" r="3.5" className={WAS} />
        <path d="M10.5,5h3v4h-3ZM10.5,15h3v4h-3Z" className={MADE} />
      </>
    ),
    Phrase: StencilPhrase,
  },
  thicken: {
    title: "Thicken strokes",
    does: "All, or only where too thin",
    group: "Shapes and shadows",
    drawing: (
      <>
        <path d="M4,17C8,5 12,5 12,12S16,19 20,7" className="fill-none stroke-glow/50" strokeWidth={6} />
        <path d="M4,17C8,5 12,5 12,12S16,19 20,7" className="fill-none stroke-soft" strokeWidth={2} />
      </>
    ),
    Phrase: ThickenPhrase,
  },
  round_off: {
    title: "Round corners",
    does: "Softer corners, the same size",
    group: "Shapes and shadows",
    drawing: (
      <>
        <rect x="4" y="4" width="16" height="16" className="fill-none stroke-soft" strokeDasharray="2 2" />
        <rect x="4" y="4" width="16" height="16" rx="6" className={MADE} />
      </>
    ),
    Phrase: RoundOffPhrase,
  },
  drop_shadow: {
    title: "Drop shadow",
    does: "A copy aside, whole or only what is seen",
    group: "Shapes and shadows",
    drawing: (
      <>
        <rect x="9" y="9" width="12" height="12" className={MADE} />
        <rect x="4" y="4" width="12" height="12" className={WAS} />
      </>
    ),
    Phrase: DropShadowPhrase,
  },
  block_shadow: {
    title: "Block shadow",
    does: "Drawn out solid to one side",
    group: "Shapes and shadows",
    drawing: (
      <>
        <path d="M4,4h10l7,7v10H11l-7-7Z" className={MADE} />
        <rect x="4" y="4" width="10" height="10" className={WAS} />
      </>
    ),
    Phrase: BlockShadowPhrase,
  },
  plate: {
    title: "Plate",
    does: "A sign's board: rectangle, ellipse or arch",
    group: "Shapes and shadows",
    drawing: (
      <>
        <rect x="2" y="5" width="20" height="14" rx="4" className={MADE} />
        <path d="M7,15V9l3,4l3-4v6M16,9v6" className="fill-none stroke-soft" />
      </>
    ),
    Phrase: PlatePhrase,
  },
  place: {
    title: "Move, turn, mirror",
    does: "Without touching the words themselves",
    group: "Shapes and shadows",
    drawing: (
      <>
        <path d="M3,18l7-12v12Z" className={WAS} />
        <path d="M21,18l-7-12v12Z" className={MADE} />
        <path d="M12,3v18" className="fill-none stroke-soft" strokeDasharray="2 2" />
      </>
    ),
    Phrase: PlacePhrase,
  },
  union: {
    title: "Join with",
    does: "Makes one piece with another shape",
    group: "With other shapes",
    drawing: <path d="M3,8h9v-4h9v12h-9v4h-9Z" className={MADE} />,
    Phrase: ({ verb }) => verb("joined with"),
  },
  subtract: {
    title: "Cut away",
    does: "Takes another shape out of this one",
    group: "With other shapes",
    drawing: (
      <>
        <path d="M3,6h18v12h-18Z" className={WAS} />
        <circle cx="15" cy="12" r="4.5" className="fill-sheet stroke-halo" />
      </>
    ),
    Phrase: ({ verb }) => verb("cut away"),
    After: CutNote,
  },
  intersect: {
    title: "Keep only inside",
    does: "Keeps what lies inside another shape",
    group: "With other shapes",
    drawing: (
      <>
        <circle cx="9" cy="12" r="6" className="fill-none stroke-soft" />
        <circle cx="15" cy="12" r="6" className="fill-none stroke-soft" />
        <path d="M12,6.8a6,6 0 0 1 0,10.4a6,6 0 0 1 0,-10.4Z" className="fill-glow/60 stroke-halo" />
      </>
    ),
    Phrase: ({ verb }) => verb("kept only inside"),
  },
  underlap: {
    title: "Reach under an edge",
    does: "Closes the slit to the layer above",
    group: "With other shapes",
    drawing: (
      <>
        <path d="M2,8h8v12H2Z" className={WAS} />
        <path d="M10,8h5v12h-5Z" className={MADE} />
        <path d="M10,4h12v11H10Z" className="fill-none stroke-soft" />
      </>
    ),
    Phrase: UnderlapPhrase,
  },
  bleed: {
    title: "Bleed over an edge",
    does: "Prints reach past the edge that is cut",
    group: "With other shapes",
    drawing: (
      <>
        <path d="M2,4h13v16H2Z" className={WAS} />
        <path d="M15,4h5v16h-5Z" className={MADE} />
        <path d="M15,2v20" className={LINE} strokeDasharray="2 2" />
      </>
    ),
    Phrase: BleedPhrase,
  },
  stitch: {
    title: "Stitches",
    does: "Strokes along the edge, evenly spaced",
    group: "Finishing",
    drawing: (
      <>
        <rect x="3" y="3" width="18" height="18" rx="5" className="fill-soft/40" />
        <rect
          x="6"
          y="6"
          width="12"
          height="12"
          rx="3"
          className={LINE}
          strokeWidth={2}
          strokeDasharray="3 2"
        />
      </>
    ),
    Phrase: StitchPhrase,
  },
  tidy: {
    title: "Tidy",
    does: "Drops crumbs that nobody can weed",
    group: "Finishing",
    drawing: (
      <>
        <rect x="3" y="6" width="11" height="12" className={WAS} />
        <path d="M17,7h2v2h-2ZM18,13h1.5v3h-1.5Z" className="fill-none stroke-halo" strokeDasharray="1.5 1" />
      </>
    ),
    Phrase: TidyPhrase,
  },
  keep: { title: "Keep picked pieces", does: "", group: null, drawing: null, Phrase: KeepPhrase },
  drop: { title: "Drop picked pieces", does: "", group: null, drawing: null, Phrase: DropPhrase },
};

export const STEP_OPS = Object.keys(PHRASES) as StepOp[];

/** The small drawing of what a step does. */
export function Drawing({ op }: { op: StepOp }) {
  return (
    <svg viewBox="0 0 24 24" aria-hidden="true" className="size-8 shrink-0">
      {PHRASES[op].drawing}
    </svg>
  );
}
