import { useRef, useState } from "react";
import type { Problem } from "../api/client";
import { useTyped } from "./useTyped";

/**
 * A form's fields as they are typed, each bound to the field of the request by its name, and what the server found
 * wrong with them.
 *
 * @param stored the record as it is stored now, or as a new one begins, with its version (0 for a new one)
 * @param keptAs see {@link useTyped}
 */
export function useForm<T extends object>(stored: { version: number; draft: T }, keptAs?: string) {
  const typed = useTyped(stored, keptAs);
  const [problem, setProblem] = useState<Problem>();
  // How the fields are called on screen; each field that is shown says so.
  const labels = useRef<Partial<Record<string, string>>>({});
  return {
    ...typed,
    labels: labels.current,
    problem,
    /** What is wrong with a field, if anything. */
    fault: (field: string): string | undefined => problem?.at(`/${field}`),
    /** What is wrong with fields that are not shown. */
    otherFaults: (problem?.faults ?? []).filter(
      ({ pointer }) => pointer !== "" && labels.current[pointer.slice(1)] === undefined,
    ),
    /** Shows what is wrong; the answer is how the fields are called. */
    refused: (problem: Problem) => {
      setProblem(problem);
      return labels.current;
    },
    saved: () => {
      typed.forget();
      setProblem(undefined);
    },
  };
}

export type Form<T extends object> = ReturnType<typeof useForm<T>>;
