// What a mill has carved so far, as a picture with the light from the upper left.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api } from "../api/client";
import { type Relief, readRelief } from "../carving/relief";

type Props = { job: number; going: boolean; done: string };

export function CarvedSoFar({ job, going, done }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { data } = useQuery({
    queryKey: ["carved", job, going, done],
    queryFn: async ({ signal }) => readRelief(await api.jobRelief(job, signal)),
    refetchInterval: going ? 1_000 : false,
    placeholderData: (before) => before,
  });
  useEffect(() => {
    if (data && canvas.current) paint(canvas.current, data);
  }, [data]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="What is carved so far"
      className="mt-2 w-full rounded-xl border border-line"
      data-testid="carved"
    />
  );
}

const WOOD = [201, 159, 99];

function paint(canvas: HTMLCanvasElement, { columns, rows, cell, heights }: Relief): void {
  canvas.width = columns;
  canvas.height = rows;
  const pen = canvas.getContext("2d");
  if (!pen) return;
  const picture = pen.createImageData(columns, rows);
  const z = (i: number, j: number) =>
    heights[Math.min(Math.max(j, 0), rows - 1) * columns + Math.min(Math.max(i, 0), columns - 1)] ?? 0;
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const dx = (z(i + 1, j) - z(i - 1, j)) / (2 * cell);
      const dy = (z(i, j + 1) - z(i, j - 1)) / (2 * cell);
      const light = (0.5 * dx - 0.5 * dy + 0.75) / Math.hypot(dx, dy, 1) / 0.75;
      const share = Math.max(0.25, light) / (1 - z(i, j) / 25);
      const at = 4 * ((rows - 1 - j) * columns + i);
      WOOD.forEach((part, k) => {
        picture.data[at + k] = Math.min(255, part * share);
      });
      picture.data[at + 3] = 255;
    }
  pen.putImageData(picture, 0, 0);
}
