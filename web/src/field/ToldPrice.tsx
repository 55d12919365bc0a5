import { Button, Input } from "antd";
import { useState } from "react";
import type { PocketVisit } from "../api/generated/schema";
import { currencyMark } from "../format";
import { useTap } from "./useTap";

/** Notes what one has told the customer that all of the job costs, so that the office charges just that. */
export function ToldPrice({ visit, back }: { visit: PocketVisit; back: () => void }) {
  const [told, setTold] = useState("");
  const tap = useTap({ done: back, said: "Noted. The office reads it when it bills the job." });
  const tell = (withVat: boolean) =>
    tap.run({ step: "tell_price", visitId: visit.visitId, form: { told, withVat } });
  return (
    <form
      className="form"
      aria-label="Told a price"
      onSubmit={(event) => {
        event.preventDefault();
        tell(true);
      }}
    >
      <label>
        What did you tell them that all of it costs, {currencyMark()}?
        <Input
          className="tall"
          autoFocus
          inputMode="decimal"
          placeholder="240"
          value={told}
          onChange={(event) => setTold(event.target.value)}
        />
      </label>
      <div className="pair">
        <Button type="primary" htmlType="submit" loading={tap.running}>
          With VAT
        </Button>
        <Button loading={tap.running} onClick={() => tell(false)}>
          Without VAT
        </Button>
      </div>
      <Button className="tall" onClick={back}>
        Go back
      </Button>
    </form>
  );
}
