import { Button } from "antd";
import { useTap } from "./useTap";

/** Begins a break, which ends the work; whoever goes on working ends it. */
export function Break({ crewIds }: { crewIds: number[] }) {
  const begin = useTap({ said: "On a break." });
  return (
    <Button
      loading={begin.running}
      onClick={() => begin.run({ step: "start_clock", form: { kind: "break", crewIds } })}
    >
      Break
    </Button>
  );
}
