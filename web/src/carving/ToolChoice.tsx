// One tool out of those that come with the app and one's own.

import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import type { EndMill, Tool, VBit } from "../document/types";
import { Choice } from "../ui/Choice";

const NONE = "none";

type Props<One extends Tool> = {
  label: string;
  kind: One["kind"];
  /** Null where none is used. */
  value: One | null;
  /** How "none" reads, where that may be chosen. */
  none?: string;
  onChange: (tool: One) => void;
};

export function useTools() {
  return useQuery({ queryKey: ["tools"], queryFn: api.tools, staleTime: 60_000 }).data ?? [];
}

export function ToolChoice(props: Props<VBit>): React.ReactNode;
export function ToolChoice(
  props: Omit<Props<EndMill>, "onChange"> & { onChange: (tool: EndMill | null) => void },
): React.ReactNode;
export function ToolChoice({ label, kind, value, none, onChange }: Props<VBit> | Props<EndMill>) {
  const tools = useTools().filter((one) => one.tool.kind === kind);
  const choose = onChange as (tool: Tool | null) => void;
  // A design keeps its tools, also those that are in no list any more.
  const listed = tools.some((one) => one.tool.name === value?.name);
  const options = tools.map((one) => ({ value: one.tool.name, text: one.tool.name }));
  if (value && !listed) options.unshift({ value: value.name, text: value.name });
  if (none) options.push({ value: NONE, text: none });
  return (
    <Choice
      inline
      label={label}
      value={value?.name ?? NONE}
      groups={[{ options }]}
      onChange={(name) => {
        const found = tools.find((one) => one.tool.name === name);
        if (found) choose(found.tool);
        else if (name === NONE) choose(null);
      }}
    />
  );
}
