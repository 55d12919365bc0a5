import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { WeekEntry } from "../api/generated/schema";
import { time, weekday } from "../format";
import { useAct } from "../kit/useAct";

/** A time that the next clock ended: whose it is says whether that was right. */
export default function InDoubt({ entry }: { entry: WeekEntry }) {
  const [end, setEnd] = useState("");
  const act = useAct(
    (endedAt: string) =>
      answer(
        endedAt === ""
          ? client.POST("/api/pocket/time-entries/{id}/confirm", {
              params: { path: { id: entry.id } },
              body: { version: entry.version },
            })
          : client.PUT("/api/pocket/time-entries/{id}", {
              params: { path: { id: entry.id } },
              body: {
                version: entry.version,
                from: time(entry.from),
                to: endedAt,
                miles: entry.miles > 0 ? String(entry.miles) : undefined,
                reason: "Said when asked",
              },
            }),
      ),
    { said: "Thank you. That is written down." },
  );
  return (
    <form
      className="form body"
      aria-label={`When did it end: ${entry.what}`}
      onSubmit={(event) => {
        event.preventDefault();
        act.run(end.trim());
      }}
    >
      <label>
        {weekday(entry.day)} you {entry.kind === "drive" ? "drove to" : "were at"} {entry.what} from{" "}
        {time(entry.from)}. The next clock ended that at {time(entry.to ?? entry.from)}. When was it really?
        <Input
          className="tall"
          placeholder={time(entry.to ?? entry.from)}
          value={end}
          onChange={(event) => setEnd(event.target.value)}
        />
      </label>
      <Button type="primary" className="tall" htmlType="submit" loading={act.running}>
        {end.trim() === "" ? `${time(entry.to ?? entry.from)} is right` : `It ended at ${end.trim()}`}
      </Button>
    </form>
  );
}
