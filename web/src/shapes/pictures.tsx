// A small drawing of every shape, on 24 by 24. The record is typed by the union that the API's schema gives: a shape
// without a drawing does not compile.

import type { ShapeName } from "../document/types";

const PATHS: Record<ShapeName, string> = {
  rectangle: "M3,6H21V18H3Z",
  ellipse: "M3,12A9,6.5 0 1 1 21,12A9,6.5 0 1 1 3,12Z",
  polygon: "M12,3L20,7.5V16.5L12,21L4,16.5V7.5Z",
  star: "M12,2.5L14.7,9H21.5L16,13.2L18,20L12,16L6,20L8,13.2L2.5,9H9.3Z",
  heart: "M12,21C9,17 3,14 3,8.5C3,3.5 10,2.5 12,7.5C14,2.5 21,3.5 21,8.5C21,14 15,17 12,21Z",
  arch: "M5,21V10A7,7 0 0 1 19,10V21Z",
  ring: "M3,12A9,9 0 1 1 21,12A9,9 0 1 1 3,12ZM7,12A5,5 0 1 0 17,12A5,5 0 1 0 7,12Z",
  banner: "M2,8H22L19,12L22,16H2L5,12Z",
  speech_bubble: "M5,4H19A2,2 0 0 1 21,6V14A2,2 0 0 1 19,16H11L7,21V16H5A2,2 0 0 1 3,14V6A2,2 0 0 1 5,4Z",
  tag: "M8,6H22V18H8L3,13.5V10.5ZM6.5,12A1.5,1.5 0 1 0 9.5,12A1.5,1.5 0 1 0 6.5,12Z",
  cloud: "M7,19A4,4 0 0 1 5,12A5,4.5 0 0 1 11,7.5A5,5 0 0 1 19,11A4,4 0 0 1 18,19Z",
};

export const SHAPE_NAMES = Object.keys(PATHS) as ShapeName[];

export function ShapePicture({ shape }: { shape: ShapeName }) {
  return (
    <svg viewBox="0 0 24 24" aria-hidden="true" className="size-6 shrink-0" fillRule="evenodd">
      <path d={PATHS[shape]} className="fill-glow/30 stroke-halo" strokeWidth={1.2} strokeLinejoin="round" />
    </svg>
  );
}
