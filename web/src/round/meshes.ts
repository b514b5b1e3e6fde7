// Layers as meshes: what the server sends, read and kept while the look is open.

import { BufferAttribute, BufferGeometry } from "three";
import { api } from "../api/client";
import type { Design } from "../document/types";

type Listed = {
  id: string;
  key: string;
  bottom: number;
  thickness: number;
  points: number;
  triangles: number;
  sent: boolean;
};

export type ShownLayer = Pick<Listed, "id" | "key" | "bottom" | "thickness"> & { geometry: BufferGeometry };
/** `exact` tells whether they are as exact as they leave. */
export type Shown = { layers: ShownLayer[]; height: number; document: Design; exact: boolean };

/** What is marked on a face lies so far over it, in mm: more for each of several. */
const OVER = 0.03;

/** The height of each layer's underside, pulled apart by `spread` mm; what is marked goes with what is cut next under it. */
export function heightsOf({ layers }: Shown, spread: number): Map<string, number> {
  const cut = layers.filter((one) => one.thickness > 0);
  return new Map(
    layers.map((one, index) => {
      const under = layers.slice(index).find((other) => other.thickness > 0);
      const step = under ? cut.length - 1 - cut.indexOf(under) : 0;
      const over = one.thickness > 0 ? 0 : OVER * (layers.length - index);
      return [one.id, one.bottom + over + step * spread];
    }),
  );
}

/** Lengths of a texture in mm: how soon grain comes again. */
const GRAIN = 90;

/** Asks for meshes, and keeps those that may be wanted again. */
export class Meshes {
  private held = new Map<string, BufferGeometry>();

  async ask(document: Design, exact: boolean, signal: AbortSignal): Promise<Shown> {
    const data = await api.inTheRound({ document, exact, have: [...this.held.keys()] }, signal);
    const length = new DataView(data).getUint32(0, true);
    const head: { layers: Listed[]; height: number } = JSON.parse(
      new TextDecoder().decode(new Uint8Array(data, 4, length)),
    );
    let at = 4 + length;
    const layers = head.layers.map((one) => {
      if (one.sent) {
        const points = new Float32Array(data, at, 3 * one.points);
        at += points.byteLength;
        const corners = new Uint32Array(data, at, 3 * one.triangles);
        at += corners.byteLength;
        this.held.get(one.key)?.dispose();
        this.held.set(one.key, geometryOf(points, corners));
      }
      return { ...one, geometry: this.held.get(one.key) ?? new BufferGeometry() };
    });
    this.forget(new Set(layers.map((one) => one.key)));
    return { layers, height: head.height, document, exact };
  }

  /** Those shown stay, and as many others as an undo or two may ask for. */
  private forget(shown: Set<string>): void {
    for (const [key, geometry] of this.held) {
      if (this.held.size <= 24 + shown.size) return;
      if (shown.has(key)) continue;
      geometry.dispose();
      this.held.delete(key);
    }
  }

  close(): void {
    for (const geometry of this.held.values()) geometry.dispose();
    this.held.clear();
  }
}

function geometryOf(points: Float32Array, corners: Uint32Array): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(points, 3));
  geometry.setIndex(new BufferAttribute(corners, 1));
  const places = new Float32Array((points.length / 3) * 2);
  for (let k = 0; k < places.length / 2; k++) {
    places[2 * k] = (points[3 * k] ?? 0) / GRAIN;
    places[2 * k + 1] = (points[3 * k + 1] ?? 0) / GRAIN;
  }
  geometry.setAttribute("uv", new BufferAttribute(places, 2));
  return geometry;
}
