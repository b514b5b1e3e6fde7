// A value once it has not changed for a moment.

import { useEffect, useState } from "react";

export function useRested<Value>(value: Value, delay = 200): Value {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), delay);
    return () => clearTimeout(timer);
  }, [value, delay]);
  return rested;
}
