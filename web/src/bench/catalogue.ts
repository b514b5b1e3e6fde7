// Fonts and materials for whoever needs them below the bench.

import { createContext, useContext, useMemo } from "react";
import type { Font, Material } from "../api/client";
import type { OwnMaterial } from "../document/types";
import { usePart } from "./history";

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

/** What is in no list counts as 1 mm thick, as its finding says. */
const UNKNOWN_MM = 1;

/** How thick a material is, in mm. */
export function thicknessOf(materials: Material[], id: string): number {
  return materials.find((one) => one.id === id)?.thickness ?? UNKNOWN_MM;
}

/** What of a material goes into a document. */
export function plainMaterial({ own: _, ...material }: Material): OwnMaterial {
  return material;
}
