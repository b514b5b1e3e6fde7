// A mark for each kind of finding: told apart by its shape, with colour only on top of that.

import type { Finding } from "../api/client";

/** Drawn around (0, 0), about 16 wide. */
const SHAPES: Partial<Record<Finding["kind"], string>> = {
  // A piece beside the rest.
  loose_piece: "M-7,-6H-1V6H-7ZM7,0A3.2,3.2 0 1 1 6.99,-0.1Z",
  // Something that falls.
  drop_out: "M-7,-6H7L0,7Z",
  // A splinter.
  sliver: "M0,-8L3.6,0L0,8L-3.6,0Z",
  // A waist.
  thin_spot: "M-7,-7H7L1.6,0L7,7H-7L-1.6,0Z",
  // Two edges close together.
  tight_gap: "M-7,-7H-1.6V7H-7ZM1.6,-7H7V7H1.6Z",
  // Something over an edge.
  overhang: "M-7,-2H7V-7H-7ZM-7,1H1V7H-7Z",
  // A ring filled in.
  closed_hole: "M-7,-7H7V7H-7ZM-3.5,-3.5V3.5H3.5V-3.5Z",
  hole_near_edge: "M-7,-7H7V7H-7ZM2.5,0A2.8,2.8 0 1 0 2.5,0.1Z",
  // An inner corner.
  sharp_corner: "M-7,-7H0V0H7V7H-7Z",
  // A slit between two.
  hairline: "M-8,-5.5A8,8 0 0 1 8,-5.5V-1H-8ZM-8,1H8V5.5A8,8 0 0 1 -8,5.5Z",
  // The same line twice.
  doubled_line: "M-7,-6L-4,-8L7,6L4,8ZM-1,-8H2L8,0V4Z",
  // Larger than its frame.
  too_big: "M-8,-8H-2L-8,-2ZM8,8H2L8,2ZM-2.5,-2.5H2.5V2.5H-2.5Z",
  // Two that should lie on each other.
  out_of_register: "M-8,-8H3V-5H-5V3H-8ZM8,8H-3V5H5V-3H8Z",
  // Two rings that meet.
  running_together: "M-4,-5A5,5 0 1 0 -3.9,-5ZM4,-5A5,5 0 1 1 3.9,-5Z",
  // Half over an edge.
  off_sheet: "M-8,-7H1V7H-8ZM3,-4H8V4H3Z",
};

const OTHER = "M0,-8L8,6H-8Z";

const COLOURS = { error: "fill-alarm", warning: "fill-alarm", note: "fill-soft" };

export function FindingShape({ finding }: { finding: Finding }) {
  const letBe = finding.accepted !== null;
  return (
    <>
      <path
        d={SHAPES[finding.kind] ?? OTHER}
        className="fill-none stroke-sheet"
        strokeWidth={4}
        strokeLinejoin="round"
      />
      <path
        d={SHAPES[finding.kind] ?? OTHER}
        strokeWidth={1.2}
        strokeLinejoin="round"
        className={letBe ? "fill-sheet stroke-soft" : `${COLOURS[finding.severity]} stroke-sheet`}
      />
    </>
  );
}

export function FindingMark({ finding }: { finding: Finding }) {
  return (
    <svg viewBox="-10 -10 20 20" aria-hidden="true" className="size-5 shrink-0">
      <FindingShape finding={finding} />
    </svg>
  );
}
