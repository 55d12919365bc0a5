import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { newKey, Problem } from "../api/client";
import { heldFocus } from "./focus";
import { type Said, say } from "./useSaid";

type Names = Partial<Record<string, string>>;

/** How many faults a refusal names before it only counts them. */
const NAMED = 3;

/**
 * Something that changes the work. While it runs, asking again does nothing; its key stays the same until it has
 * succeeded, so that a lost answer can be asked for again without doing anything twice. What was done is said, and so
 * is every refusal, in words; what is on screen is read anew, and the focus is never lost with what had it.
 */
export function useAct<Input = void, Result = unknown>(
  act: (input: Input, key: string) => Promise<Result>,
  options: {
    /** What the answer is of what is read: it is on screen before anything is read anew, and never puts back what is. */
    answers?: QueryKey;
    done?: (result: Result) => void;
    /** Shows what is wrong; the answer, if any, is how the fields are called. */
    // biome-ignore lint/suspicious/noConfusingVoidType: a form answers, others just look at it
    refused?: (problem: Problem) => Names | void;
    /** The act itself has shown what came of it: the next one need not wait until the rest is read. */
    shown?: boolean;
    /** Whether the act has changed what is read; what waits to be sent has not yet. */
    changes?: (result: Result) => boolean;
    /** What was done, in the past tense; nothing where the page itself says it. */
    said?: string | ((result: Result, input: Input) => Said) | null;
  } = {},
) {
  const queryClient = useQueryClient();
  const key = useRef(newKey());
  const running = useRef(false);
  const focus = useRef<() => void>(undefined);
  const mutation = useMutation<Result, Problem, Input>({
    // Whoever acts without a network is told at once.
    networkMode: "always",
    mutationFn: (input) => act(input, key.current),
    onSuccess: async (result, input) => {
      key.current = newKey();
      if (options.answers) {
        queryClient.setQueryData(options.answers, result);
      }
      if (options.changes?.(result) ?? true) {
        const read = Promise.all([
          queryClient.invalidateQueries({ queryKey: ["work"] }),
          queryClient.invalidateQueries({ queryKey: ["pocket"] }),
        ]);
        if (!options.shown) {
          await read;
        }
      }
      options.done?.(result);
      const { said = "Done." } = options;
      if (said !== null) {
        say(typeof said === "string" ? { text: said } : said(result, input));
      }
    },
    onError: (problem) => {
      if (problem instanceof Problem && problem.status >= 400) {
        key.current = newKey();
      }
      if (problem.status === 409) {
        void queryClient.invalidateQueries({ queryKey: ["work"] });
      }
      const names = options.refused?.(problem) ?? {};
      const atFields = options.refused !== undefined && problem.faults.some(({ pointer }) => pointer !== "");
      say({ text: refusal(problem, names), refused: true, atFields });
    },
    onSettled: () => {
      running.current = false;
      focus.current?.();
    },
  });
  return {
    running: mutation.isPending,
    problem: mutation.error ?? undefined,
    forget: mutation.reset,
    run: (input: Input) => {
      if (!running.current) {
        running.current = true;
        focus.current = heldFocus();
        mutation.mutate(input);
      }
    },
  };
}

/** A refusal in words: what the whole is refused for, or what is wrong field by field. */
function refusal(problem: Problem, names: Names): string {
  const details = problem.faults
    .filter(({ pointer }) => pointer !== "")
    .map(({ pointer, detail }) => {
      const name = names[pointer.slice(1)];
      return name ? `${name}: ${detail}` : detail;
    });
  if (details.length === 0) {
    return problem.message;
  }
  const more = details.length > NAMED ? ` And ${details.length - NAMED} more.` : "";
  return `Not done yet. ${details.slice(0, NAMED).join(" ")}${more}`;
}
