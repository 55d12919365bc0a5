import { useEffect, useState } from "react";

/** So long, in milliseconds, something stays as it is until the server is asked about it. */
const RESTED = 100;

/** A value once it has stayed the same for a moment; until then the one that it was before. */
export function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), RESTED);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}
