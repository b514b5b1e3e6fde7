// Send a board or a sheet to a practice machine: which, where to, and a short list to tick before.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Send, SquareDashed, SquareDot } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import { type Machine, Problem } from "../api/answers";
import { api } from "../api/client";
import { boardsOf } from "../document/handOver";
import { layingOf } from "../document/laying";
import type { Design } from "../document/types";
import { useMaterials } from "../layers/catalogue";
import { useDesign } from "../state/timeline";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { attempt, Failure } from "../ui/Failure";
import { Panel, PanelTitle } from "../ui/Panel";
import { stateOf } from "./words";

export function SendButton({ disabled }: { disabled: boolean }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button disabled={disabled}>
          <Send size={15} /> To a practice machine
        </Button>
      </Dialog.Trigger>
      <Panel className="max-h-[88vh] w-[34rem] max-w-[94vw]" scrolls>
        <PanelTitle title="To a practice machine" />
        <Sending />
      </Panel>
    </Dialog.Root>
  );
}

type Request = Parameters<typeof api.sendJob>[1];
type What = NonNullable<Request["what"]>;
type Origin = NonNullable<Request["origin"]>;

/** How what is sent is called. */
const SENT: Record<What, (target: string) => string> = {
  job: (target) => target,
  outline: (target) => `The outline of ${target}`,
  test: (target) => `A test cut of ${target}`,
};

const ORIGINS: { value: Origin; text: string }[] = [
  { value: "corner", text: "lower left corner" },
  { value: "centre", text: "middle" },
];

type Target = { value: string; text: string; board: number; sheet: number | null; carving: boolean };

function Sending() {
  const design = useDesign();
  const queries = useQueryClient();
  const materials = useMaterials();
  const called = (id: string) => materials.find((one) => one.id === id)?.name ?? id;
  const targets = targetsOf(design, called);
  const { data: machines } = useQuery({ queryKey: ["machines"], queryFn: api.machines });
  const [what, setWhat] = useState(targets[0]?.value ?? "");
  const [where, setWhere] = useState<string | null>(null);
  const [ticked, setTicked] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const [sent, setSent] = useState("");
  const [origin, setOrigin] = useState<Origin>("corner");
  const target = targets.find((one) => one.value === what) ?? targets[0];
  const { data: refusals, error } = useQuery({
    queryKey: [
      "fit",
      design.art,
      design.layers,
      design.hand_over,
      design.materials,
      design.carving,
      target?.value,
    ],
    queryFn: ({ signal }) => {
      const { board = 0, sheet = null, carving = false } = target ?? {};
      return api.fit({ document: design, board, sheet, carving, what: "job", origin }, signal);
    },
    enabled: target !== undefined,
    retry: false,
  });
  // The usual one is one that can make it, and is on.
  const able = machines?.filter((one) => refusals?.[one.id] === "") ?? [];
  const usual = able.find((one) => one.state !== "offline") ?? able[0] ?? machines?.[0];
  const machine = machines?.find((one) => one.id === where) ?? usual;
  const refusal = machine ? refusals?.[machine.id] : undefined;
  const steps = machine ? stepsOf(machine, origin) : [];
  const send = async (what: What = "job") => {
    if (!machine || !target) return;
    setBusy(true);
    const { board, sheet, carving } = target;
    const job = await attempt("sending", () =>
      api.sendJob(machine.id, { document: design, board, sheet, carving, what, origin }),
    ).finally(() => setBusy(false));
    if (!job) return;
    void queries.invalidateQueries({ queryKey: ["machines"] });
    if (what === "job") setTicked([]);
    const called = SENT[what](target.text);
    setSent(
      machine.state === "offline"
        ? `${called} is sent: it waits until ${machine.name} is switched on.`
        : machine.state === "ready"
          ? `${called} is sent to ${machine.name}.`
          : `${called} is sent and waits: ${machine.name} is ${stateOf(machine)}.`,
    );
  };
  if (!target) return <p className="mt-3 text-soft">Nothing of this design is cut.</p>;
  return (
    <div className="mt-3 flex flex-col gap-3">
      <p className="leading-8">
        Send{" "}
        <Choice
          inline
          label="What is sent"
          value={target.value}
          groups={[{ options: targets }]}
          onChange={setWhat}
        />{" "}
        to{" "}
        {machine && machines && (
          <Choice
            inline
            label="Machine"
            value={machine.id}
            groups={[
              {
                options: machines.map((one) => ({
                  value: one.id,
                  text: `${one.name} (${refusals?.[one.id] ? "cannot make it" : stateOf(one)})`,
                })),
              },
            ]}
            onChange={setWhere}
          />
        )}
        {!target.carving && (
          <>
            , from its{" "}
            <Choice
              inline
              label="Origin"
              value={origin}
              groups={[{ options: ORIGINS }]}
              onChange={setOrigin}
            />
          </>
        )}
      </p>
      {!target.carving && (
        <div className="flex gap-2">
          <Button
            disabled={busy || !machine || refusal !== ""}
            title="The tool goes around it, lifted"
            onClick={() => void send("outline")}
          >
            <SquareDashed size={15} /> Trace the outline
          </Button>
          <Button
            disabled={busy || !machine || refusal !== ""}
            title="A circle in a square of 10 mm, to weed or to measure"
            onClick={() => void send("test")}
          >
            <SquareDot size={15} /> Test cut
          </Button>
        </div>
      )}
      <fieldset>
        <legend className="font-semibold">Before it cuts</legend>
        {steps.map((step) => (
          <label key={step} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={ticked.includes(step)}
              onChange={(event) =>
                setTicked(event.target.checked ? [...ticked, step] : ticked.filter((one) => one !== step))
              }
            />
            {step}
          </label>
        ))}
        <p className="text-soft text-xs">To remember by: nothing is refused for what is not ticked.</p>
      </fieldset>
      {(refusal || error instanceof Problem) && (
        <p role="alert" className="text-alarm">
          {refusal || (error instanceof Problem && error.sentence)}
        </p>
      )}
      {sent && <p role="status">{sent}</p>}
      <Failure place="sending" />
      <div className="flex items-center justify-end gap-3">
        <Link to="/machines" target="_blank" className="font-semibold text-halo underline underline-offset-4">
          Watch the machines
        </Link>
        <Button look="main" disabled={busy || !machine || refusal !== ""} onClick={() => void send()}>
          <Send size={15} /> Send
        </Button>
      </div>
    </div>
  );
}

/** Boards first, then sheets where pieces were laid on some. */
function targetsOf(design: Design, called: (material: string) => string): Target[] {
  const boards = boardsOf(design).map((board, index) => ({
    value: `board-${index}`,
    text: board.board ?? called(board.material),
    board: index,
    sheet: null,
    carving: false,
  }));
  const sheets = [...new Set(layingOf(design, "design").placed.map((one) => `${one.board}.${one.sheet}`))]
    .map((key) => key.split(".").map(Number))
    .sort(([a = 0, b = 0], [c = 0, d = 0]) => a - c || b - d)
    .map(([board = 0, sheet = 0], index) => ({
      value: `sheet-${index}`,
      text: `${boards[board]?.text ?? "board"}, sheet ${sheet + 1}`,
      board,
      sheet: index,
      carving: false,
    }));
  const carving = {
    value: "carving",
    text: "the carving, a job for each tool",
    board: 0,
    sheet: null,
    carving: true,
  };
  return [...(design.carving ? [carving] : []), ...boards, ...sheets];
}

function stepsOf(machine: Machine, origin: Origin): string[] {
  const tool =
    machine.tool === "beam"
      ? "The lens is clean, and the beam in focus"
      : machine.tool === "knife"
        ? "The knife is sharp, and as deep as a test cut says"
        : `The ${machine.tool} is in`;
  const roll = machine.roll_mm !== null;
  return [
    "The material is the right one, and lies the right way up",
    tool,
    roll ? "The roll is loaded straight" : "The sheet lies flat and is held down",
    `The origin is at the ${ORIGINS.find((one) => one.value === origin)?.text} of the job`,
  ];
}
