import { Button } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { Visit } from "../api/generated/schema";
import { time } from "../format";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { type Clash, clashesOf } from "./words";

type Companion = Visit["companions"][number];

/** "10:00 to 12:00"; nothing for somebody who comes for all of it. */
export const hoursOf = ({ from, to }: Companion): string =>
  from && to ? `${time(from)} to ${time(to)}` : "";

/** For which hours somebody comes along to a visit; they move with it. */
export function CrewHoursForm({
  visit,
  companion,
  close,
}: {
  visit: Visit;
  companion: Companion;
  close: () => void;
}) {
  const form = useForm({ version: visit.version, draft: { hours: hoursOf(companion) } });
  const [asked, setAsked] = useState<Clash[]>([]);
  const save = useAct(
    (overruled: Clash[]) =>
      answer(
        client.PUT("/api/visits/{id}/crew/{personId}/hours", {
          params: { path: { id: visit.id, personId: companion.id } },
          body: { version: form.version, hours: form.draft.hours, overruled },
        }),
      ),
    {
      done: close,
      refused: (problem) => {
        setAsked(clashesOf(problem.faults));
        form.refused(problem);
      },
      said: `The hours of ${companion.name} are noted.`,
    },
  );
  return (
    <InlineForm
      form={form}
      label={`When ${companion.name} comes along`}
      confirm="Save"
      running={save.running}
      submit={() => save.run([])}
      extra={
        asked.length > 0 && (
          <Button danger loading={save.running} onClick={() => save.run(asked)}>
            Save all the same
          </Button>
        )
      }
      close={close}
      overtaken="this visit"
    >
      <TextField
        form={form}
        name="hours"
        label={`Hours of ${companion.name}`}
        width={190}
        autoFocus
        placeholder="10 to 12; empty for all of it"
      />
    </InlineForm>
  );
}
