import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { JobNeeds as Needs } from "../api/generated/schema";
import { queries } from "../api/queries";
import { CREWS, people } from "../kit/crews";
import { ChoiceField, ChoicesField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";

/** What whoever goes to a job must be and know, and the way to change it. */
export function JobNeeds({ jobId, editable }: { jobId: number; editable: boolean }) {
  const { data } = useQuery(queries.jobNeeds(jobId));
  const [editing, setEditing] = useState(false);
  if (!data) {
    return null;
  }
  if (editing) {
    return <JobNeedsForm jobId={jobId} needs={data} close={() => setEditing(false)} />;
  }
  const plain = data.asKind && data.crewSize === 1 && data.skills.length === 0;
  return (
    <div className="small soft">
      {plain
        ? "One person can do it. "
        : `Needs ${[people(data.crewSize), ...data.skills.map(({ name }) => name)].join(", ")}${
            data.asKind ? "" : ", not as its kind"
          }. `}
      {editable && (
        <Word id={`needs-of-job-${jobId}`} of=" who goes" run={() => setEditing(true)}>
          Change
        </Word>
      )}
    </div>
  );
}

function JobNeedsForm({ jobId, needs, close }: { jobId: number; needs: Needs; close: () => void }) {
  const form = useForm({
    version: needs.version,
    draft: { crewSize: needs.crewSize as number | undefined, skillIds: needs.skills.map(({ id }) => id) },
  });
  const save = useAct(
    (body: { crewSize?: number; skillIds: number[] }) =>
      answer(
        client.PUT("/api/jobs/{id}/needs", {
          params: { path: { id: jobId } },
          body: { version: form.version, ...body },
        }),
      ),
    { done: close, refused: form.refused, said: "What the job needs is noted." },
  );
  return (
    <InlineForm
      form={form}
      label="Who goes to the job"
      confirm="Save"
      running={save.running}
      submit={() => save.run(form.draft)}
      extra={
        !needs.asKind && (
          <Button loading={save.running} onClick={() => save.run({ skillIds: [] })}>
            As its kind again
          </Button>
        )
      }
      close={close}
      overtaken="what the job needs"
    >
      <ChoiceField
        form={form}
        name="crewSize"
        label="How many go"
        width={140}
        needed
        autoFocus
        options={CREWS}
      />
      <ChoicesField
        form={form}
        name="skillIds"
        label="Who know"
        width={260}
        placeholder="nothing special"
        options={needs.choices.map(({ id, name }) => ({ value: id, label: name }))}
      />
    </InlineForm>
  );
}
