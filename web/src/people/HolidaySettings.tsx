import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { Holiday } from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday } from "../format";
import lines from "../kit/Lines.module.css";
import { RecordForm } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { KeptSection } from "./KeptSection";
import { useSession } from "./SessionGate";
import { useMay } from "./useMay";

/** The days on which nobody works. */
export function HolidaySettings() {
  const { data, error } = useQuery(queries.holidays);
  const [adding, setAdding] = useState(false);
  const { now } = useSession();
  const mayChange = useMay("change_settings");
  const remove = useAct((day: string) =>
    answer(client.DELETE("/api/settings/holidays/{day}", { params: { path: { day } } })),
  );
  return (
    <KeptSection name="Holidays" error={error} add={() => setAdding(true)}>
      <table className={lines.lines}>
        <tbody>
          {data?.map((holiday: Holiday) => (
            <tr key={holiday.day}>
              <td>
                {weekday(holiday.day)} {holiday.day.slice(0, 4)}
              </td>
              <td>{holiday.name}</td>
              <td className="figure">
                {mayChange && holiday.day >= now.slice(0, 10) && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`Remove ${holiday.name} ${holiday.day}`}
                    onClick={() => remove.run(holiday.day)}
                  >
                    remove
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {adding && (
        <RecordForm
          title="Another holiday"
          confirm="Add holiday"
          fields={[
            { name: "day", label: "Day", hint: "29 mar 2027", half: true },
            { name: "name", label: "Name", half: true },
          ]}
          initial={{ day: "", name: "" }}
          version={0}
          save={(values) =>
            answer(
              client.POST("/api/settings/holidays", {
                body: { day: String(values.day ?? ""), name: String(values.name ?? "") },
              }),
            )
          }
          close={() => setAdding(false)}
        />
      )}
    </KeptSection>
  );
}
