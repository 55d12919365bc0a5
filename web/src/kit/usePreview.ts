import { useEffect, useRef, useState } from "react";
import type { Problem } from "../api/client";

/** So long after the last key the server is asked. */
const PAUSE = 120;

/**
 * What the server makes of something that is typed or chosen, a moment after it was. An answer that is overtaken is
 * given up; a refused one leaves the figures as they were.
 *
 * @param typed what the figures are of; nothing when none are wanted
 */
export function usePreview<Typed, Figures>(
  typed: Typed | undefined,
  ask: (typed: Typed, signal: AbortSignal) => Promise<Figures>,
): { figures: Figures | undefined; problem: Problem | undefined } {
  const [shown, setShown] = useState<{ figures?: Figures; problem?: Problem }>({});
  const latest = useRef({ typed, ask });
  latest.current = { typed, ask };
  const written = JSON.stringify(typed);
  useEffect(() => {
    const overtaken = new AbortController();
    const timer = setTimeout(() => {
      const { typed, ask } = latest.current;
      if (written === undefined || typed === undefined) {
        return;
      }
      ask(typed, overtaken.signal).then(
        (figures) => setShown({ figures }),
        (problem: Problem) => {
          if (!overtaken.signal.aborted) {
            setShown(({ figures }) => ({ figures, problem }));
          }
        },
      );
    }, PAUSE);
    return () => {
      clearTimeout(timer);
      overtaken.abort();
    };
  }, [written]);
  return written === undefined
    ? { figures: undefined, problem: undefined }
    : { figures: shown.figures, problem: shown.problem };
}
