// The open design is kept saved, and follows what other windows save while nothing here is unsent.

import { useEffect } from "react";
import { api } from "../api/client";
import { Saver, wouldLose } from "./saving";

const news = new BroadcastChannel("tinhalo.saved");
const saver = new Saver(api, (id, revision) => news.postMessage({ id, revision }));

/** Save everything that is unsent; resolves once it is stored, or cannot be for now. */
export const flush = (): Promise<void> => saver.flush();

export function useAutosave(id: string) {
  useEffect(() => {
    const stop = saver.watch();
    const onNews = (event: MessageEvent<{ id: string; revision: number }>) => {
      if (event.data.id === id) void saver.catchUp(id, event.data.revision);
    };
    const onFocus = () => void saver.catchUp(id);
    const onHide = () => saver.leave();
    const onLeave = (event: BeforeUnloadEvent) => {
      if (wouldLose() || saver.isBehind()) event.preventDefault();
    };
    news.addEventListener("message", onNews);
    addEventListener("focus", onFocus);
    addEventListener("pagehide", onHide);
    addEventListener("beforeunload", onLeave);
    return () => {
      stop();
      news.removeEventListener("message", onNews);
      removeEventListener("focus", onFocus);
      removeEventListener("pagehide", onHide);
      removeEventListener("beforeunload", onLeave);
      void saver.flush();
    };
  }, [id]);
}
