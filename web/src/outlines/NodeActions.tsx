// What can be done with the nodes that are taken.

import { useState } from "react";
import type { OutlineArt } from "../document/types";
import { useSelection } from "../state/selection";
import { useUnit } from "../state/timeline";
import { Button } from "../ui/Button";
import { NumberField } from "../ui/NumberField";
import { editOutline } from "./turning";

export function NodeActions({ art }: { art: OutlineArt }) {
  const unit = useUnit();
  const nodes = useSelection((state) => state.nodes);
  const [reach, setReach] = useState(0.5);
  const act = (text: string, title: string, run: () => Promise<void>) => (
    <Button look="quiet" className="h-7 px-1.5" title={title} onClick={() => void run()}>
      {text}
    </Button>
  );
  if (nodes.length === 0)
    return (
      <p className="text-soft text-xs">
        Click a node or an edge, or drag round some. Double click an edge for one more. Space and drag moves
        the view.
      </p>
    );
  const { id } = art;
  return (
    <div
      className="flex flex-wrap items-center gap-x-1 rounded-lg bg-bench px-1.5 py-1"
      data-testid="node-actions"
    >
      <span className="mr-1 font-semibold text-xs">
        {nodes.length} {nodes.length === 1 ? "node" : "nodes"}
      </span>
      {act("Delete", "Take them out; the outline stays near (Delete)", () =>
        editOutline(id, { op: "remove_nodes", nodes }),
      )}
      {act("Smooth", "No corner there", () => editOutline(id, { op: "smooth", nodes }, nodes))}
      {act("Corner", "A corner there", () => editOutline(id, { op: "corner", nodes }, nodes))}
      {nodes.length > 1 &&
        act("Straighten", "One straight line along each stretch", () =>
          editOutline(id, { op: "straighten", nodes }),
        )}
      {nodes.length > 1 && (
        <span className="flex items-center">
          {act("Even out", "What is uneven along each stretch goes; its ends stay", () =>
            editOutline(id, { op: "even_out", nodes, reach }),
          )}
          <NumberField
            inline
            label="Evened out along"
            value={reach}
            unit={unit}
            min={0.01}
            max={100}
            onChange={setReach}
          />
        </span>
      )}
    </div>
  );
}
