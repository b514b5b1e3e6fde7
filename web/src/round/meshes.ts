// Layers as meshes: what the server sends, read and kept while the look is open.

import { BufferAttribute, BufferGeometry } from "three";
import { Problem } from "../api/answers";
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
export type Shown = { layers: ShownLayer[]; height: number; document: Design };

/** Lengths of a texture in mm: how soon grain comes again. */
const GRAIN = 90;

/** Asks for meshes, and keeps those that may be wanted again. */
export class Meshes {
  private held = new Map<string, BufferGeometry>();

  async ask(document: Design, exact: boolean, signal: AbortSignal): Promise<Shown> {
    const response = await fetch("/api/round", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ document, exact, have: [...this.held.keys()] }),
      signal,
    });
    if (!response.ok) {
      const told: { detail?: string } = await response.json().catch(() => ({}));
      throw new Problem(response.status, "Not shown", told.detail ?? "It cannot be shown in the round.");
    }
    const data = await response.arrayBuffer();
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
    return { layers, height: head.height, document };
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
