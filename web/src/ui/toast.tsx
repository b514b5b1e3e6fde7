// Short messages at the bottom of the screen, with one thing to do about them.

import { X } from "lucide-react";
import { Toast } from "radix-ui";
import { create } from "zustand";
import { IconButton } from "./Button";

type Message = { id: number; text: string; action?: { label: string; run: () => void } };

const useMessages = create<{ messages: Message[] }>()(() => ({ messages: [] }));
let count = 0;

/** Say something; what it gives takes it back. */
export function say(text: string, action?: Message["action"]): () => void {
  const message: Message = { id: ++count, text, ...(action ? { action } : {}) };
  useMessages.setState(({ messages }) => ({ messages: [...messages.slice(-2), message] }));
  return () => drop(message.id);
}

function drop(id: number) {
  useMessages.setState(({ messages }) => ({ messages: messages.filter((message) => message.id !== id) }));
}

export function Toasts() {
  const messages = useMessages((state) => state.messages);
  return (
    <Toast.Provider duration={12_000} label="Message">
      {messages.map((message) => (
        <Toast.Root
          key={message.id}
          onOpenChange={(open) => !open && drop(message.id)}
          className="my-1 flex max-w-[94vw] items-center gap-3 rounded-xl border border-line bg-ink py-0.5 pr-1.5 pl-4 text-paper"
        >
          <Toast.Description>{message.text}</Toast.Description>
          {message.action && (
            <Toast.Action
              altText={message.action.label}
              onClick={message.action.run}
              className="rounded-lg px-2 py-1 font-semibold underline underline-offset-4"
            >
              {message.action.label}
            </Toast.Action>
          )}
          <Toast.Close asChild>
            <IconButton label="Close this message" className="text-paper">
              <X size={15} />
            </IconButton>
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="relative z-[60] flex flex-col items-center" />
    </Toast.Provider>
  );
}
