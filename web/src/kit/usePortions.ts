import { startTransition, useEffect, useState } from "react";

/** So many more are drawn at a time; few enough that nothing which is done meanwhile waits for them. */
const PORTION = 5;

/** How many of many are drawn: those in sight at once, and the others a few at a time after them. */
export function usePortions(inAll: number, inSight: number): number {
  const [drawn, setDrawn] = useState(inSight);
  useEffect(() => {
    if (drawn < inAll) {
      const next = setTimeout(() => startTransition(() => setDrawn(drawn + PORTION)));
      return () => clearTimeout(next);
    }
  }, [drawn, inAll]);
  return Math.min(drawn, inAll);
}
