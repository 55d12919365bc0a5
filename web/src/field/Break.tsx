import { Button } from "antd";
import { answer, client, withKey } from "../api/client";
import { useAct } from "../kit/useAct";

/** Begins a break, which ends the work; whoever goes on working ends it. */
export function Break({ crewIds }: { crewIds: number[] }) {
  const begin = useAct(
    (tappedAt: string, key) =>
      answer(
        client.POST("/api/pocket/clock", {
          params: withKey(key),
          body: { kind: "break", crewIds, tappedAt, sentAt: new Date().toISOString() },
        }),
      ),
    { said: "On a break." },
  );
  return (
    <Button loading={begin.running} onClick={() => begin.run(new Date().toISOString())}>
      Break
    </Button>
  );
}
