import { answer, client, withKey } from "../api/client";
import type { AwayFrom } from "../api/generated/schema";
import { headline, weekday } from "../format";
import { RecordForm } from "../kit/RecordForm";

const KINDS: AwayFrom["kind"][] = ["illness", "holiday", "training"];

/** Says that somebody is not at work; what was planned for then stays, and is marked. */
export function AbsenceForm({
  personId,
  name,
  day,
  close,
}: {
  personId: number;
  name: string;
  /** On which it begins until somebody says otherwise. */
  day: string;
  close: () => void;
}) {
  return (
    <RecordForm
      title={`${name} is away`}
      confirm="Say so"
      fields={[
        {
          name: "kind",
          label: "Why",
          kind: "choice",
          needed: true,
          options: KINDS.map((value) => ({ value, label: headline(value) })),
        },
        { name: "firstDay", label: "From", half: true, needed: true },
        { name: "lastDay", label: "To, and that day too", half: true, hint: "empty for one day" },
        { name: "starts", label: "From what time", half: true, hint: "empty for whole days" },
        { name: "ends", label: "Until what time", half: true },
        { name: "note", label: "Note" },
      ]}
      initial={{ kind: "illness", firstDay: weekday(day), lastDay: "", starts: "", ends: "", note: "" }}
      version={0}
      save={(values, key) =>
        answer(
          client.POST("/api/technicians/{id}/absences", {
            params: { path: { id: personId }, ...withKey(key) },
            body: {
              kind: values.kind as AwayFrom["kind"],
              firstDay: String(values.firstDay ?? ""),
              lastDay: String(values.lastDay ?? ""),
              starts: String(values.starts ?? ""),
              ends: String(values.ends ?? ""),
              note: String(values.note ?? ""),
            },
          }),
        )
      }
      close={close}
    />
  );
}
