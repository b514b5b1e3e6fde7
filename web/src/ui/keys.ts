// The keys of the bench, in one list: what listens to them and what tells of them read the same.

/** A key, as `KeyboardEvent.key` has it in lower case, or several that go together. */
export type Key = { keys: string[]; does: string; with?: "command" };

export const KEYS = {
  undo: { keys: ["z"], with: "command", does: "Undo" },
  redo: { keys: ["y"], with: "command", does: "Redo; also with Shift and Z" },
  copy: { keys: ["c"], with: "command", does: "Copy what is picked, or the layer, also for other designs" },
  cut: { keys: ["x"], with: "command", does: "Cut it out, to paste it elsewhere" },
  paste: { keys: ["v"], with: "command", does: "Paste" },
  duplicate: { keys: ["d"], with: "command", does: "Duplicate" },
  remove: { keys: ["delete", "backspace"], does: "Delete what is picked, or the layer" },
  before: { keys: ["b"], does: "Hold: as it was opened; over a step, without that step" },
  help: { keys: ["?"], does: "These keys" },
  zoomIn: { keys: ["+", "="], does: "Zoom in" },
  zoomOut: { keys: ["-"], does: "Zoom out" },
  all: { keys: ["0"], does: "Show everything" },
  seams: { keys: ["m"], does: "The next place where two layers should meet, close up" },
} as const satisfies Record<string, Key>;

export type KeyName = keyof typeof KEYS;

/** Whether a key press is the one with this name. */
export function isKey(event: KeyboardEvent | React.KeyboardEvent, name: KeyName): boolean {
  const { keys, with: held }: Key = KEYS[name];
  const command = event.ctrlKey || event.metaKey;
  return command === (held === "command") && !event.altKey && keys.includes(event.key.toLowerCase());
}

/** Whether keys go into a text now, and mean letters. */
export function isTyping(event: KeyboardEvent): boolean {
  return (event.target as HTMLElement).matches?.("input, textarea, [contenteditable]") ?? false;
}

/** “Ctrl+Z”. */
export function keyText(name: KeyName): string {
  const { keys, with: held }: Key = KEYS[name];
  const [first = ""] = keys;
  const named = first.charAt(0).toUpperCase() + first.slice(1);
  return held === "command" ? `Ctrl+${named}` : named;
}

/** What arrow keys and gestures do, by where they do it; these are not one key each. */
export const GESTURES: [string, [string, string][]][] = [
  [
    "Stage",
    [
      ["Drag, or one finger", "Pan"],
      ["Wheel, or two fingers", "Zoom"],
      ["Arrow keys", "Pan; with Shift further"],
      ["Click", "Pick words, a shape or a layer"],
      ["Shift and click", "Pick several, to move and copy them together"],
      ["Double click, or a long press", "On words: type into them there. Elsewhere: show everything"],
      ["Drag a layer's edge", "Its border, line, wall or margin wider or narrower"],
      ["Drag a layer", "Look what lies under it: it springs back"],
      ["Escape", "Pick nothing; while something is dragged, take that back"],
    ],
  ],
  [
    "Picked words and shapes",
    [
      ["Arrow keys", "Move 0.1 mm; with Shift 1 mm"],
      ["[ and ]", "Turn by one degree"],
      ["Enter", "Type into picked words; Escape ends it"],
      ["Tab", "To single letters"],
      ["Click a letter; more with Shift", "They move, turn and grow together"],
      ["Alt while dragging", "Without snapping"],
    ],
  ],
  [
    "Nodes of an outline",
    [
      ["Drag round nodes", "Take them; with Shift also"],
      ["Space and drag, or one finger", "Pan"],
      ["Click an edge", "Take the stretch between two nodes"],
      ["Double click an edge", "A node more"],
      ["Arrow keys", "Move what is taken 0.1 mm; with Shift 1 mm"],
      ["Page up and down", "The node before or after; with Shift also"],
      ["Ctrl+A", "Take all"],
      ["Delete", "Take nodes out; the outline stays near"],
      ["Alt while dragging a handle", "Only that one: it becomes a corner"],
      ["Escape", "Take none; once more to be done"],
    ],
  ],
  [
    "In the round (3D)",
    [
      ["Drag, or one finger", "Turn and tilt"],
      ["Right drag, or two fingers", "Move it"],
      ["Wheel, or pinch", "Nearer or further"],
      ["Arrow keys", "Turn and tilt; with Shift move"],
      ["Click", "Pick a layer, or a finding"],
    ],
  ],
  [
    "Numbers",
    [
      ["Drag sideways", "More or less"],
      ["Arrow up and down, or wheel", "One step; Shift ten, Alt a tenth"],
      ["Alt and Enter, or right click", "Try a range of values"],
      ["3 mm, 1/8 in, 0.5 cm", "Any unit can be typed"],
    ],
  ],
  [
    "Words and layers",
    [
      ["Arrow up and down", "Walk through the rows"],
      ["Enter", "Open a row and go into it"],
      ["Arrow keys on a layer's grip", "Move it in the stack"],
      ["Letters in the list of steps", "Find a step"],
    ],
  ],
];
