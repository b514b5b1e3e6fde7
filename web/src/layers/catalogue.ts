// Fonts and materials for whoever needs them below the bench.

import { createContext, useContext, useMemo } from "react";
import type { Font, Material } from "../api/client";
import type { OwnMaterial } from "../document/types";
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

/** What colour a material counts as, and how thick in mm. */
export function countsAs(materials: Material[], id: string): Pick<Material, "colour" | "thickness"> {
  return materials.find((one) => one.id === id) ?? UNKNOWN;
}

/** What of a material goes into a document. */
export function plainMaterial({ own: _, ...material }: Material): OwnMaterial {
  return material;
}
