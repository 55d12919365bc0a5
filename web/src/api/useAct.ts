import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useRef } from "react";
import { newKey, Problem } from "./client";

/**
 * Something that changes the work. While it runs, asking again does nothing; its key stays the same until it has
 * succeeded, so that a lost answer can be asked for again without doing anything twice. A refusal is shown in words,
 * and what is on screen is read anew.
 */
export function useAct<Input = void, Result = unknown>(
  act: (input: Input, key: string) => Promise<Result>,
  options: { done?: (result: Result) => void; refused?: (problem: Problem) => void } = {},
) {
  const { message } = App.useApp();
  const queryClient = useQueryClient();
  const key = useRef(newKey());
  const running = useRef(false);
  const mutation = useMutation<Result, Problem, Input>({
    mutationFn: (input) => act(input, key.current),
    onSuccess: async (result) => {
      key.current = newKey();
      await Promise.all([
        queryClient.invalidateQueries({ queryKey: ["work"] }),
        queryClient.invalidateQueries({ queryKey: ["pocket"] }),
      ]);
      options.done?.(result);
    },
    onError: (problem) => {
      if (problem instanceof Problem && problem.status >= 400) {
        key.current = newKey();
      }
      if (problem.status === 409) {
        void queryClient.invalidateQueries({ queryKey: ["work"] });
      }
      if (options.refused) {
        options.refused(problem);
      }
      if (!options.refused || problem.faults.every((fault) => fault.pointer === "")) {
        void message.error({ content: problem.message, duration: 8, key: "refused" });
      }
    },
    onSettled: () => {
      running.current = false;
    },
  });
  return {
    running: mutation.isPending,
    problem: mutation.error ?? undefined,
    forget: mutation.reset,
    run: (input: Input) => {
      if (!running.current) {
        running.current = true;
        mutation.mutate(input);
      }
    },
  };
}
