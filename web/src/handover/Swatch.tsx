// A colour that is chosen, or none: what stands for none is said in words.

import { endGesture } from "../state/timeline";

type Props = {
  label: string;
  colour: string | null;
  /** What it is where no colour is chosen. */
  none: string;
  /** The colour to begin with. */
  start: string;
  onChange: (colour: string | null) => void;
};

export function Swatch({ label, colour, none, start, onChange }: Props) {
  return (
    <span className="inline-flex items-center gap-1.5">
      {colour && (
        <input
          type="color"
          aria-label={label}
          title={`${label}: ${colour}`}
          value={colour}
          className="size-7 cursor-pointer rounded-lg border border-line bg-sheet p-0.5"
          onChange={(event) => onChange(event.target.value)}
          onBlur={endGesture}
        />
      )}
      <button
        type="button"
        aria-label={colour ? `${label}: ${none} instead` : `${label}: ${none}. Choose a colour`}
        className="whitespace-nowrap rounded-lg border border-line px-1.5 py-0.5 text-xs hover:border-soft"
        onClick={() => onChange(colour ? null : start)}
      >
        {colour ? `or ${none}` : none}
      </button>
    </span>
  );
}
