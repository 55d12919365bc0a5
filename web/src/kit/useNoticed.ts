import { useEffect, useState } from "react";

const UNNOTICED = 200;

/**
 * Whether something has gone on for so long that the page had better show it. What is over sooner would only flicker,
 * and showing it costs a slow phone more time than most taps take.
 */
export function useNoticed(running: boolean): boolean {
  const [noticed, setNoticed] = useState(false);
  useEffect(() => {
    const timer = running && setTimeout(() => setNoticed(true), UNNOTICED);
    return () => {
      clearTimeout(timer || undefined);
      setNoticed(false);
    };
  }, [running]);
  return running && noticed;
}
