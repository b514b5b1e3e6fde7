// How many of a layer's pieces, or of one of them, are laid for each copy of the job.

import { Labelled } from "../art/Standing";
import { type Laid, quantityOf, setQuantity } from "../document/laying";
import type { Laying } from "../document/types";
import { EditNumber } from "../fields/EditNumber";
import { edits } from "../state/timeline";

type Props = {
  of: Laid;
  laying: Laying;
  layer: string;
  piece: number | null;
  text: string;
  label: string;
};

export function QuantityField({ of, laying, layer, piece, text, label }: Props) {
  return (
    <Labelled text={text}>
      <EditNumber
        label={label}
        value={quantityOf(laying, layer, piece)}
        unit={null}
        decimals={0}
        step={1}
        min={0}
        max={500}
        edits={(count) =>
          edits(
            (now) => setQuantity(now, of, layer, piece, Math.round(count)),
            `laying.quantity.${layer}.${piece ?? ""}`,
          )
        }
      />
    </Labelled>
  );
}
