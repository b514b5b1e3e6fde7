// The values of a range one at a time at full size, as long as nothing else is changed.

import { X } from "lucide-react";
import { showVariant, useRange } from "../state/range";
import { useDesign } from "../state/timeline";
import { Button, IconButton } from "../ui/Button";

export function ComparedValues() {
  const compared = useRange((state) => state.compared);
  const design = useDesign();
  if (!compared?.variants.some((one) => one.design === design)) return null;
  return (
    <section
      aria-label={`Values of ${compared.label}`}
      className="absolute top-9 left-9 flex max-w-[calc(100%-28rem)] max-[1100px]:top-16 max-[1100px]:max-w-[calc(100%-4.5rem)] flex-wrap items-center gap-1 rounded-xl border border-line bg-sheet p-1 shadow-lg"
    >
      <span className="px-2 font-semibold">{compared.label}</span>
      {compared.variants.map((one, index) => (
        <Button
          // biome-ignore lint/suspicious/noArrayIndexKey: two values may look alike
          key={index}
          aria-pressed={one.design === design}
          className="h-8 px-2 aria-pressed:border-halo aria-pressed:text-halo"
          onClick={() => showVariant(compared, one.design)}
        >
          {one.title}
        </Button>
      ))}
      <IconButton label="Keep this value" onClick={() => useRange.setState({ compared: null })}>
        <X size={16} />
      </IconButton>
    </section>
  );
}
