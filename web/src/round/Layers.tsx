// The layers of the stack as they stand, in their materials; pointed at to be picked.

import { type ThreeEvent, useThree } from "@react-three/fiber";
import { memo, useEffect, useMemo, useState } from "react";
import { BufferAttribute, type BufferGeometry, DoubleSide, FrontSide, type Texture } from "three";
import { isLine } from "../document/handOver";
import type { Layer } from "../document/types";
import { looksLike, useMaterials } from "../layers/catalogue";
import type { Paint } from "../stage/StagePaint";
import { selectLayer, useSelection } from "../state/selection";
import { heightsOf, type Shown, type ShownLayer } from "./meshes";
import { painted, placesOn } from "./paints";
import { FINISH, grainOf } from "./surfaces";

type Props = { shown: Shown; spread: number; slow: boolean; paints: Map<string, Paint | null> };

/** Drawn anew only with other meshes: whatever is set on them again, be it the same, is a frame. */
export const Layers = memo(function Layers({ shown, spread, slow, paints }: Props) {
  const layers = new Map(shown.document.layers.map((layer) => [layer.id, layer]));
  const heights = heightsOf(shown, spread);
  return shown.layers.map((one) => {
    const layer = layers.get(one.id);
    if (!layer) return null;
    return (
      <group key={one.id} position={[0, 0, heights.get(one.id) ?? 0]}>
        <One layer={layer} shown={one} slow={slow} paint={paints.get(one.id) ?? null} />
      </group>
    );
  });
});

type OneProps = { layer: Layer; shown: ShownLayer; slow: boolean; paint: Paint | null };

function One({ layer, shown, slow, paint }: OneProps) {
  const materials = useMaterials();
  const invalidate = useThree((state) => state.invalidate);
  const { colour } = looksLike(materials, layer);
  const surface = materials.find((one) => one.id === layer.material)?.surface ?? "matt";
  const picked = useSelection((state) => state.layer === layer.id);
  const solid = shown.thickness > 0;
  const texture = usePaint(layer.process === "print" ? paint : null, colour);
  const geometry = usePlaced(shown.geometry, texture ? paint : null);
  const { roughness, metalness } = FINISH[solid || layer.process === "print" ? surface : "matt"];
  const map = texture ?? (solid ? grainOf(surface) : null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen of it has changed
  useEffect(invalidate, [geometry, colour, map, picked, surface, invalidate]);
  const pick = (event: ThreeEvent<MouseEvent>) => {
    if (event.delta > 4) return;
    event.stopPropagation();
    selectLayer(layer.id);
  };
  const sunk = layer.process === "engrave" || layer.process === "carve" || isLine(layer);
  const common = {
    color: texture ? "#ffffff" : sunk ? "#2a1c12" : colour,
    transparent: sunk,
    opacity: sunk ? 0.55 : 1,
    map,
    flatShading: solid,
    side: solid ? FrontSide : DoubleSide,
    emissive: picked ? "#22c3f0" : "#000000",
    emissiveIntensity: picked ? 0.14 : 0,
  } as const;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a mesh of the scene; layers are picked by keys in the build sheet
    <mesh
      geometry={geometry}
      castShadow={solid}
      receiveShadow
      onClick={pick}
      onPointerOver={(event) => {
        event.stopPropagation();
        document.body.style.cursor = "pointer";
      }}
      onPointerOut={() => {
        document.body.style.cursor = "";
      }}
    >
      {slow ? (
        <meshPhongMaterial
          key={map ? "map" : "plain"}
          {...common}
          specular={metalness ? "#999999" : "#222222"}
          shininess={(1 - roughness) * 90}
        />
      ) : (
        <meshStandardMaterial
          key={map ? "map" : "plain"}
          {...common}
          roughness={roughness}
          metalness={metalness}
        />
      )}
    </mesh>
  );
}

/** A print's texture once it is painted. */
function usePaint(paint: Paint | null, ground: string): Texture | null {
  const key = paint ? JSON.stringify([paint.file, paint.figures, paint.width_mm, paint.height_mm]) : "";
  const [texture, setTexture] = useState<Texture | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is what of it is painted
  useEffect(() => {
    if (!paint) {
      setTexture(null);
      return;
    }
    let made: Texture | null = null;
    let gone = false;
    painted(paint, ground).then(
      (one) => {
        if (gone) return one.dispose();
        made = one;
        setTexture(one);
      },
      () => setTexture(null),
    );
    return () => {
      gone = true;
      made?.dispose();
    };
  }, [key, ground]);
  return texture;
}

/** The mesh with places on a paint's tile. */
function usePlaced(geometry: BufferGeometry, paint: Paint | null): BufferGeometry {
  const key = paint ? JSON.stringify([paint.matrix, paint.width_mm, paint.height_mm]) : "";
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key is what of it places depend on
  const placed = useMemo(() => {
    const points = geometry.getAttribute("position");
    if (!paint || !points) return geometry;
    const made = geometry.clone();
    made.setAttribute("uv", new BufferAttribute(placesOn(paint, points.array), 2));
    return made;
  }, [geometry, key]);
  useEffect(() => {
    if (placed !== geometry) return () => placed.dispose();
  }, [placed, geometry]);
  return placed;
}
