// The carved surface: few triangles for its shape, and its slopes in fine as a picture of normals over them.

import { type ThreeEvent, useThree } from "@react-three/fiber";
import { useEffect, useMemo } from "react";
import {
  BufferAttribute,
  BufferGeometry,
  DataTexture,
  LinearFilter,
  LinearMipmapLinearFilter,
  ObjectSpaceNormalMap,
  RGBAFormat,
  SRGBColorSpace,
} from "three";
import { FINISH, grainOf, type Surface } from "../round/surfaces";
import type { Relief } from "./relief";

/** Lengths of the wood's picture in mm, and what is as good as nothing. */
const [GRAIN, HAIR] = [90, 1e-4];
/** How much darker the lowest ground is. */
const SHADE = 0.4;

type Props = {
  relief: Relief;
  thickness: number;
  colour: string;
  surface: Surface;
  /** Cells to a triangle's side: more where no graphics card helps. */
  coarse: number;
  /** Whether it is painted by how far it is from what is wanted. */
  difference: boolean;
  onPoint: (event: ThreeEvent<PointerEvent>) => void;
  onPick: (event: ThreeEvent<MouseEvent>) => void;
  onLeave: () => void;
};

export function ReliefMesh(props: Props) {
  const { relief, thickness, colour, surface, coarse, difference, onPoint, onPick, onLeave } = props;
  const invalidate = useThree((state) => state.invalidate);
  const geometry = useMemo(() => geometryOf(relief, thickness, coarse), [relief, thickness, coarse]);
  const normals = useMemo(() => normalsOf(relief), [relief]);
  const apart = useMemo(() => (difference ? apartOf(relief) : null), [relief, difference]);
  useEffect(() => () => geometry.dispose(), [geometry]);
  useEffect(() => () => normals.dispose(), [normals]);
  useEffect(() => () => apart?.dispose(), [apart]);
  const grain = grainOf(surface);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen of it has changed
  useEffect(invalidate, [geometry, normals, apart, colour, invalidate]);
  const { roughness, metalness } = FINISH[surface];
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a mesh of the scene; the section's fields take places by keys
    <mesh
      geometry={geometry}
      castShadow
      receiveShadow
      onPointerMove={onPoint}
      onPointerOut={onLeave}
      onClick={onPick}
    >
      <meshStandardMaterial
        key={apart ? "apart" : grain ? "grain" : "plain"}
        color={apart ? "#ffffff" : colour}
        map={apart ?? grain}
        vertexColors={!apart}
        normalMap={normals}
        normalMapType={ObjectSpaceNormalMap}
        roughness={roughness}
        metalness={metalness}
      />
    </mesh>
  );
}

/** A surface over every so many cells, its rim let down to the underside. */
function geometryOf(relief: Relief, thickness: number, coarse: number): BufferGeometry {
  const { x, y, cell, columns, rows, heights } = relief;
  const steps = (count: number) => {
    const found: number[] = [];
    for (let k = 0; k < count - 1; k += coarse) found.push(k);
    return [...found, count - 1];
  };
  const [across, up] = [steps(columns), steps(rows)];
  // The rim twice: on top, and at the underside.
  const wide = across.length + 2;
  const high = up.length + 2;
  const points = new Float32Array(3 * wide * high);
  const grain = new Float32Array(2 * wide * high);
  const whole = new Float32Array(2 * wide * high);
  for (let j = 0; j < high; j++)
    for (let i = 0; i < wide; i++) {
      const column = across[Math.min(Math.max(i - 1, 0), across.length - 1)] ?? 0;
      const row = up[Math.min(Math.max(j - 1, 0), up.length - 1)] ?? 0;
      const rim = i === 0 || j === 0 || i === wide - 1 || j === high - 1;
      const at = j * wide + i;
      const [px, py] = [x + column * cell, y + row * cell];
      points.set([px, py, thickness + (rim ? -thickness : (heights[row * columns + column] ?? 0))], 3 * at);
      grain.set([px / GRAIN, py / GRAIN], 2 * at);
      whole.set([(column + 0.5) / columns, (row + 0.5) / rows], 2 * at);
    }
  const lowest = Math.max(
    heights.reduce((low, z) => (z > -thickness + HAIR ? Math.min(low, z) : low), 0) * -1,
    HAIR,
  );
  const shades = new Float32Array(3 * wide * high);
  for (let at = 0; at < wide * high; at++) {
    // Less light comes down to the ground.
    const down = Math.min(1, Math.max(0, (thickness - (points[3 * at + 2] ?? 0)) / lowest));
    shades.fill(1 - SHADE * down, 3 * at, 3 * at + 3);
  }
  const corners = new Uint32Array(6 * (wide - 1) * (high - 1));
  let k = 0;
  for (let j = 0; j < high - 1; j++)
    for (let i = 0; i < wide - 1; i++) {
      const [a, b] = [j * wide + i, j * wide + i + 1];
      const [c, d] = [b + wide, a + wide];
      const z = (at: number) => points[3 * at + 2] ?? 0;
      // Beside the board there is nothing.
      if (Math.max(z(a), z(b), z(c), z(d)) < HAIR) continue;
      // Along an edge rather than across it.
      const along = Math.abs(z(a) - z(c)) <= Math.abs(z(b) - z(d));
      corners.set(along ? [a, b, c, a, c, d] : [a, b, d, b, c, d], k);
      k += 6;
    }
  const made = new BufferGeometry();
  made.setAttribute("position", new BufferAttribute(points, 3));
  made.setAttribute("uv", new BufferAttribute(grain, 2));
  made.setAttribute("color", new BufferAttribute(shades, 3));
  made.setAttribute("uv1", new BufferAttribute(whole, 2));
  made.setIndex(new BufferAttribute(corners.subarray(0, k), 1));
  made.computeVertexNormals();
  return made;
}

/** Of each cell which way its surface looks, as colours. */
function normalsOf({ columns, rows, cell, heights }: Relief): DataTexture {
  const data = new Uint8Array(4 * columns * rows);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const at = j * columns + i;
      const [left, right] = [Math.max(i - 1, 0), Math.min(i + 1, columns - 1)];
      const [down, over] = [Math.max(j - 1, 0), Math.min(j + 1, rows - 1)];
      const dx =
        ((heights[j * columns + right] ?? 0) - (heights[j * columns + left] ?? 0)) / (right - left || 1);
      const dy =
        ((heights[over * columns + i] ?? 0) - (heights[down * columns + i] ?? 0)) / (over - down || 1);
      const long = Math.hypot(dx, dy, cell);
      const as = (part: number) => Math.round(127.5 + 127.5 * part);
      data.set([as(-dx / long), as(-dy / long), as(cell / long), 255], 4 * at);
    }
  return pictureOf(data, columns, rows);
}

const DEEP = [163, 31, 31];
const HIGH = [20, 90, 160];
const EVEN = [255, 252, 244];

/** Of each cell how far it is from what is wanted: red where it is too deep, blue where wood is left. */
function apartOf({ columns, rows, off }: Relief): DataTexture {
  const data = new Uint8Array(4 * columns * rows);
  for (let at = 0; at < columns * rows; at++) {
    const by = off[at] ?? 0;
    const share = by < 0 ? Math.min(1, -by / TOO_DEEP) ** 4 : Math.min(1, by / LEFT);
    const to = by < 0 ? DEEP : HIGH;
    for (let k = 0; k < 3; k++)
      data[4 * at + k] = Math.round((EVEN[k] ?? 0) + ((to[k] ?? 0) - (EVEN[k] ?? 0)) * share);
    data[4 * at + 3] = 255;
  }
  const made = pictureOf(data, columns, rows);
  made.colorSpace = SRGBColorSpace;
  return made;
}

/** What is red and blue all over, in mm. */
export const [TOO_DEEP, LEFT] = [0.02, 0.15];

function pictureOf(data: Uint8Array<ArrayBuffer>, columns: number, rows: number): DataTexture {
  const made = new DataTexture(data, columns, rows, RGBAFormat);
  made.channel = 1;
  made.generateMipmaps = true;
  made.minFilter = LinearMipmapLinearFilter;
  made.magFilter = LinearFilter;
  made.anisotropy = 4;
  made.needsUpdate = true;
  return made;
}
