import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useDeferredValue, useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, time, weekday } from "../format";
import { ChoiceField, ChoicesField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import styles from "./PlanForm.module.css";
import { TimesFound } from "./TimesFound";
import { type Clash, clashesOf, known } from "./words";

/** A length that is typed to its end. */
const LENGTH = /^\d{1,2}(:\d\d)?h?$/;

/**
 * Gives a visit its technician, day, time and length, with the best times to fill them in with, or with that
 * technician's day beside them.
 */
export function PlanForm({ visit, jobId, close }: { visit?: Visit; jobId?: number; close: () => void }) {
  const { data: choices } = useQuery(queries.choices);
  const form = useForm({
    version: visit?.version ?? 0,
    draft: {
      technicianId: visit?.technicianId ?? undefined,
      companionIds: visit?.companions.map((person) => person.id) ?? [],
      day: visit?.day ?? "",
      start: visit?.start ? time(visit.start) : "",
      expected: visit ? hours(visit.expectedMinutes) : "1:30",
    },
  });
  const { technicianId, companionIds, day, expected } = form.draft;
  const shownDay = useDeferredValue(day.trim());
  const shownLength = useDeferredValue(expected.trim());
  const save = useAct(
    (overruled: Clash[], key) => {
      const body = { version: form.version, ...form.draft, overruled };
      return visit
        ? answer(client.PUT("/api/visits/{id}/plan", { params: { path: { id: visit.id } }, body }))
        : answer(
            client.POST("/api/jobs/{id}/visits", {
              params: { path: { id: jobId ?? 0 }, ...withKey(key) },
              body,
            }),
          );
    },
    { done: close, refused: form.refused, said: "The visit is planned." },
  );
  // What was said with the time that was taken.
  const [putUpWith, setPutUpWith] = useState<Clash[]>([]);
  const clashes = clashesOf(form.problem?.faults ?? []);
  const people = (choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name }));
  return (
    <InlineForm
      form={form}
      label="Plan visit"
      confirm="Plan"
      running={save.running}
      submit={() => save.run(putUpWith)}
      extra={
        clashes.length > 0 && (
          <Button danger loading={save.running} onClick={() => save.run(clashes)}>
            Plan it there all the same
          </Button>
        )
      }
      close={close}
      overtaken="this plan"
      show={(value, field) => {
        const ids = field === "technicianId" || field === "companionIds" ? [value].flat() : undefined;
        return ids
          ? ids.map((id) => people.find((one) => one.value === id)?.label).join(", ") || "nobody"
          : `“${value}”`;
      }}
    >
      <ChoiceField
        form={form}
        name="technicianId"
        label="Technician"
        width={160}
        needed
        autoFocus
        chosen={(chosen) => ({ companionIds: companionIds.filter((id) => id !== chosen) })}
        options={people}
      />
      <ChoicesField
        form={form}
        name="companionIds"
        label="With"
        width={150}
        placeholder="nobody"
        options={people.filter((person) => person.value !== technicianId)}
      />
      <TextField form={form} name="day" label="Day" width={110} needed placeholder="tue, 24 nov" />
      <TextField form={form} name="start" label="Time" width={72} needed placeholder="8:30" />
      <TextField form={form} name="expected" label="Expected" width={80} needed placeholder="1:30" />
      {technicianId && <TechnicianDay technicianId={technicianId} day={shownDay} />}
      {visit && !technicianId && (
        <div className={styles.times}>
          <TimesFound
            visitId={visit.id}
            asked={{ expected: LENGTH.test(shownLength) ? shownLength : "" }}
            take={(found) => {
              setPutUpWith(known(found));
              form.change({
                technicianId: found.personId,
                companionIds: found.companions.map(({ id }) => id),
                day: weekday(found.day),
                start: time(found.start),
              });
            }}
          />
        </div>
      )}
    </InlineForm>
  );
}

function TechnicianDay({ technicianId, day }: { technicianId: number; day: string }) {
  const { data } = useQuery({ ...queries.technicianDay(technicianId, day), enabled: day.length > 1 });
  if (!data?.day) {
    return null;
  }
  return (
    <div className={styles.day}>
      {weekday(data.day)}:{" "}
      {data.stops.length === 0
        ? "nothing planned yet"
        : data.stops
            .map((stop) => `${time(stop.start)} ${stop.customer} (${hours(stop.expectedMinutes)})`)
            .join(" · ")}
    </div>
  );
}
