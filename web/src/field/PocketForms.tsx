import { Button, Input } from "antd";
import { useEffect, useState } from "react";

/** Whole minutes since a moment, counted on for showing; the server counts the ones that matter. */
export function useMinutesSince(start: string | undefined): number {
  const [now, setNow] = useState(Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 15_000);
    return () => clearInterval(timer);
  }, []);
  return start ? Math.max(0, Math.floor((now - Date.parse(start)) / 60_000)) : 0;
}

/** Ends a drive with its miles, which may be none. */
export function Arrive({
  submit,
  running,
  words = "I have arrived",
  suggested,
}: {
  submit: (miles: string) => void;
  running: boolean;
  words?: string;
  /** How far it is by the roads; the odometer wins. */
  suggested?: number | null;
}) {
  const [miles, setMiles] = useState(suggested ? String(suggested) : "");
  return (
    <form
      className="form"
      onSubmit={(event) => {
        event.preventDefault();
        submit(miles);
      }}
    >
      <label>
        {suggested ? `Miles driven; ${suggested} by the roads` : "Miles driven"}
        <Input
          autoFocus
          className="tall"
          inputMode="decimal"
          placeholder="18.4"
          value={miles}
          onChange={(event) => setMiles(event.target.value)}
        />
      </label>
      <Button type="primary" className="big" htmlType="submit" loading={running}>
        {miles.trim() ? words : `${words}, no miles`}
      </Button>
    </form>
  );
}

/** Asks when a clock really ended that nobody stopped. */
export function EndedAt({
  submit,
  running,
  asked = "This clock was forgotten. When did you really stop, on the day it started?",
}: {
  submit: (endedAt: string) => void;
  running: boolean;
  asked?: string;
}) {
  const [endedAt, setEndedAt] = useState("");
  return (
    <form
      className="form"
      onSubmit={(event) => {
        event.preventDefault();
        submit(endedAt);
      }}
    >
      <label>
        {asked}
        <Input
          autoFocus
          className="tall"
          placeholder="17:30"
          value={endedAt}
          onChange={(event) => setEndedAt(event.target.value)}
        />
      </label>
      <Button type="primary" className="big" htmlType="submit" loading={running}>
        Stop the clock then
      </Button>
    </form>
  );
}
