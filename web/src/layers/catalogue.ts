// Fonts and materials for whoever needs them below the bench.

import { createContext, useContext, useMemo } from "react";
import type { Font, Material } from "../api/client";
import type { Layer, OwnMaterial } from "../document/types";
import { usePart } from "../state/timeline";

const Context = createContext<{ fonts: Font[]; materials: Material[] }>({ fonts: [], materials: [] });

export const Catalogue = Context.Provider;
export const useFonts = () => useContext(Context).fonts;

/** All materials; of those that the design brings along, its own copy. */
export function useMaterials(): Material[] {
  const listed = useContext(Context).materials;
  const brought = usePart((design) => design.materials);
  return useMemo(() => {
    const copies: Material[] = brought.map((one) => ({ ...one, own: true }));
    return [...copies, ...listed.filter((one) => !brought.some((copy) => copy.id === one.id))];
  }, [listed, brought]);
}

/** What is in no list counts as grey and 1 mm thick, as its finding says. */
const UNKNOWN = { colour: "#999", thickness: 1 };

/** The colour a layer has, and how thick its material is in mm. */
export function looksLike(
  materials: Material[],
  layer: Pick<Layer, "material" | "colour">,
): Pick<Material, "colour" | "thickness"> {
  const { colour, thickness } = materials.find((one) => one.id === layer.material) ?? UNKNOWN;
  return { colour: layer.colour ?? colour, thickness };
}

/** What of a material goes into a document. */
export function plainMaterial({ own: _, ...material }: Material): OwnMaterial {
  return material;
}
