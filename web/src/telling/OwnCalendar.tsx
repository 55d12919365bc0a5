import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import { queries } from "../api/queries";
import { useAct } from "../kit/useAct";

/** The address under which a technician's own calendar follows their visits. */
export function OwnCalendar() {
  const { data } = useQuery(queries.calendarFeed);
  const [address, setAddress] = useState<string>();
  const make = useAct(() => answer(client.POST("/api/pocket/calendar")), {
    done: (made) => setAddress(made.address),
    said: "The address is made.",
  });
  const withdraw = useAct(() => answer(client.DELETE("/api/pocket/calendar")), {
    done: () => setAddress(undefined),
    said: "The address is withdrawn.",
  });
  return (
    <details className="body">
      <summary>Your own calendar</summary>
      {address && (
        <p>
          Add this address to your calendar. It is shown only now, and whoever has it sees your visits.
          <br />
          <code>{address}</code>
        </p>
      )}
      {!address && data?.madeAt && <p className="soft">Your calendar follows your visits.</p>}
      <div className="pair">
        <Button loading={make.running} onClick={() => make.run()}>
          {data?.madeAt ? "Make another address" : "Make an address"}
        </Button>
        {data?.madeAt && (
          <Button loading={withdraw.running} onClick={() => withdraw.run()}>
            Withdraw it
          </Button>
        )}
      </div>
    </details>
  );
}
