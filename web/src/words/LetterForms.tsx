// What a font offers beyond its usual letters: the axes of a variable font, and alternates with a picture of each.

import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { patchWords } from "../document/art";
import type { Lettering } from "../document/types";
import { useFonts } from "../layers/catalogue";
import { edit, endGesture } from "../state/timeline";
import { Picture } from "./FontBrowser";

export function LetterForms({ art }: { art: Lettering }) {
  const font = useFonts().find((one) => one.id === art.font);
  const text = art.text.trim().slice(0, 60);
  const features = useQuery({
    queryKey: ["features", art.font, text],
    queryFn: () => api.features(art.font, text),
    enabled: text !== "" && font !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const set = (patch: Partial<Lettering>, gesture?: string) =>
    edit((design) => patchWords(design, art.id, patch), gesture && `${art.id}.${gesture}`);
  const switchOver = (tag: string, usuallyOn: boolean) => {
    const { [tag]: now, ...others } = art.features;
    set({ features: now === undefined ? { ...others, [tag]: usuallyOn ? 0 : 1 } : others });
  };
  const axes = font?.facts.axes ?? [];
  return (
    <>
      {axes.map((axis) => {
        const value = art.axes[axis.tag] ?? axis.usual;
        return (
          <label
            key={axis.tag}
            className="col-span-2 grid grid-cols-[5rem_1fr_3rem] items-center gap-2 text-xs"
          >
            <span className="truncate text-soft">{axis.name}</span>
            <input
              type="range"
              min={axis.least}
              max={axis.most}
              step={(axis.most - axis.least) / 100 || 1}
              value={value}
              className="accent-halo"
              onChange={(event) =>
                set({ axes: { ...art.axes, [axis.tag]: Number(event.target.value) } }, `axis.${axis.tag}`)
              }
              onPointerUp={endGesture}
            />
            <span className="text-right">{Number(value.toFixed(1))}</span>
          </label>
        );
      })}
      {features.data && features.data.length > 0 && (
        <fieldset className="col-span-2">
          <legend className="mb-0.5 text-soft text-xs">Other letter forms in this font</legend>
          <div className="grid grid-cols-2 gap-1.5">
            {features.data.map((feature) => {
              const on = feature.tag in art.features;
              return (
                <button
                  key={feature.tag}
                  type="button"
                  aria-pressed={on}
                  className={`rounded-lg border p-1 text-left hover:border-soft ${on ? "border-halo bg-bench" : "border-line"}`}
                  onClick={() => switchOver(feature.tag, feature.usually_on)}
                >
                  <span className="block h-8">
                    <Picture path={feature.path} bounds={feature.bounds_mm} />
                  </span>
                  <span className="block truncate text-soft text-xs">
                    {feature.usually_on ? `Without ${feature.name.toLowerCase()}` : feature.name}
                  </span>
                </button>
              );
            })}
          </div>
        </fieldset>
      )}
    </>
  );
}
