import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { answer, client, withKey } from "../api/client";
import type { OtherVisit, VisitNeeds } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, weekday } from "../format";
import { ChoiceField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";

/** What a visit waits for: a day, a part and the day on which it arrives, or another visit of the job. */
export function NeedsForm({ visitId, close }: { visitId: number; close: () => void }) {
  const { data } = useQuery(queries.visitNeeds(visitId));
  return data ? <Needs visitId={visitId} needs={data} close={close} /> : null;
}

/** Notes that the part that a visit waits for is there, or that it is not after all. */
export function PartArrival({ visit }: { visit: { id: number; version: number; partArrived: boolean } }) {
  const note = useAct(
    () =>
      answer(
        client.PUT("/api/visits/{id}/part-arrival", {
          params: { path: { id: visit.id } },
          body: { version: visit.version, arrived: !visit.partArrived },
        }),
      ),
    {
      said: visit.partArrived ? "The part is still awaited." : "The part is there; the visit can be planned.",
    },
  );
  return (
    <Button size="small" loading={note.running} onClick={() => note.run()}>
      {visit.partArrived ? "It is not there after all" : "It has arrived"}
    </Button>
  );
}

/** One more visit of a job, which waits for its time. */
export function WaitingVisitForm({
  jobId,
  others,
  close,
}: {
  jobId: number;
  others: OtherVisit[];
  close: () => void;
}) {
  return <Needs jobId={jobId} needs={{ version: 0, expectedMinutes: 90, part: "", others }} close={close} />;
}

const named = ({ day }: OtherVisit): string =>
  day ? `the visit of ${weekday(day)}` : "the visit without a day";

function Needs({
  visitId,
  jobId,
  needs,
  close,
}: {
  visitId?: number;
  jobId?: number;
  needs: VisitNeeds;
  close: () => void;
}) {
  const form = useForm({
    version: needs.version,
    draft: {
      expected: hours(needs.expectedMinutes),
      part: needs.part,
      notBefore: needs.notBefore ?? "",
      followsId: needs.followsId ?? undefined,
    },
  });
  const save = useAct(
    (_: undefined, key) => {
      const body = { version: form.version, ...form.draft };
      return visitId
        ? answer(client.PUT("/api/visits/{id}/needs", { params: { path: { id: visitId } }, body }))
        : answer(
            client.POST("/api/jobs/{id}/waiting-visits", {
              params: { path: { id: jobId ?? 0 }, ...withKey(key) },
              body,
            }),
          );
    },
    {
      done: close,
      refused: form.refused,
      said: visitId ? "What the visit waits for is noted." : "The visit waits for its time.",
    },
  );
  return (
    <InlineForm
      form={form}
      label="What the visit needs"
      confirm={visitId ? "Save" : "Add"}
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
      overtaken={visitId ? "what it needs" : undefined}
    >
      <TextField
        form={form}
        name="expected"
        label="Expected"
        width={80}
        needed
        placeholder="1:30"
        autoFocus
      />
      <TextField form={form} name="part" label="Waits for the part" width={170} placeholder="ram, ordered" />
      <TextField form={form} name="notBefore" label="Not before" width={120} placeholder="wed, 2 dec" />
      {needs.others.length > 0 && (
        <ChoiceField
          form={form}
          name="followsId"
          label="After"
          width={190}
          clearable
          placeholder="nothing"
          options={needs.others.map((other) => ({ value: other.visitId, label: named(other) }))}
        />
      )}
    </InlineForm>
  );
}
