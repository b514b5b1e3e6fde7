import { useEffect, useState } from "react";

const MINUTE_MS = 60_000;

/** The time in milliseconds, told anew each minute. */
export function useMinute(): number {
  const [time, setTime] = useState(Date.now);
  useEffect(() => {
    const timer = setInterval(() => setTime(Date.now()), MINUTE_MS);
    return () => clearInterval(timer);
  }, []);
  return time;
}
