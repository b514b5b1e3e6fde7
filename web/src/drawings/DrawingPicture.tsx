// A small picture of a drawing, or of some of its elements, in its own colours.

import type { BroughtFile } from "../api/answers";

type Props = { file: BroughtFile; shown: BroughtFile["elements"]; className: string };

export function DrawingPicture({ file, shown, className }: Props) {
  const width = Math.max(file.width_mm, 0.1) * 1.04;
  const height = Math.max(file.height_mm, 0.1) * 1.04;
  return (
    <svg
      aria-hidden="true"
      viewBox={`${-width / 2} ${-height / 2} ${width} ${height}`}
      className={`shrink-0 rounded bg-[#e8e4da] ${className}`}
    >
      {shown.map((one) => (
        <path key={one.number} d={one.path} fill={one.colour} fillRule="nonzero" />
      ))}
    </svg>
  );
}
