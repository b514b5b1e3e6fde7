// Patterns and pictures of printed layers as textures: the server's own tiles, painted once.

import { CanvasTexture, ClampToEdgeWrapping, RepeatWrapping, SRGBColorSpace, type Texture } from "three";
import type { Paint } from "../stage/StagePaint";

const SIDE = 512;

/** A tile as a texture; `place` brings places on the drawing (mm, y up) to it. */
export async function painted(paint: Paint, ground: string): Promise<Texture> {
  const canvas = document.createElement("canvas");
  canvas.width = SIDE;
  canvas.height = Math.max(1, Math.round((SIDE * paint.height_mm) / paint.width_mm));
  const pen = canvas.getContext("2d");
  if (pen) {
    pen.fillStyle = ground;
    pen.fillRect(0, 0, canvas.width, canvas.height);
    if (paint.file) {
      const image = new Image();
      image.src = `/api/files/${paint.file}/picture`;
      await image.decode();
      pen.drawImage(image, 0, 0, canvas.width, canvas.height);
    }
    const scale = SIDE / paint.width_mm;
    pen.setTransform(scale, 0, 0, scale, 0, canvas.height);
    for (const figure of paint.figures) {
      pen.fillStyle = figure.colour;
      pen.fill(new Path2D(figure.path));
    }
  }
  const texture = new CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = paint.repeated ? RepeatWrapping : ClampToEdgeWrapping;
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 4;
  return texture;
}

/** Places on the drawing (mm, y up) as shares of a tile, for each point of a mesh. */
export function placesOn(paint: Paint, points: ArrayLike<number>): Float32Array {
  const [a, b, c, d, e, f] = paint.matrix;
  const whole = a * d - b * c;
  const made = new Float32Array((points.length / 3) * 2);
  for (let k = 0; k < made.length / 2; k++) {
    const x = (points[3 * k] ?? 0) - e;
    const y = -(points[3 * k + 1] ?? 0) - f;
    made[2 * k] = (d * x - c * y) / whole / paint.width_mm;
    made[2 * k + 1] = -(a * y - b * x) / whole / paint.height_mm;
  }
  return made;
}
