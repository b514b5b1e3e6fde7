// Who else has this design open: two people on one design are told of each other before they save over each other.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import { freshId } from "../api/freshId";
import { useTimeline } from "../state/timeline";

const EVERY_MS = 15_000;

export function Others() {
  const id = useTimeline((state) => state.id);
  const [self] = useState(freshId);
  const { data } = useQuery({
    queryKey: ["here", id, self],
    queryFn: () => api.here(id, self),
    enabled: id !== "",
    refetchInterval: EVERY_MS,
    refetchIntervalInBackground: true,
    retry: false,
  });
  useEffect(() => {
    const leave = () => api.leave(id, self);
    addEventListener("pagehide", leave);
    return () => {
      removeEventListener("pagehide", leave);
      leave();
    };
  }, [id, self]);
  const others = data?.others ?? [];
  if (others.length === 0) return null;
  const names = others.filter((name) => name !== "");
  const told =
    names.length === 0
      ? "Open in another window, too"
      : `${new Intl.ListFormat("en").format(names)} ${names.length === 1 ? "has" : "have"} this open, too`;
  return (
    <span
      role="status"
      className="max-w-56 truncate rounded-full bg-bench px-2.5 py-0.5 text-xs max-[900px]:sr-only"
      title={`${told}: whoever saves second is asked which version to keep.`}
    >
      {told}
    </span>
  );
}
