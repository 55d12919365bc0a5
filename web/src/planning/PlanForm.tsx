import { useQuery } from "@tanstack/react-query";
import { Input, Select } from "antd";
import { useDeferredValue, useState } from "react";
import { answer, client, type Problem, withKey } from "../api/client";
import type { Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../api/useAct";
import { hours, time, weekday } from "../format";
import { InlineForm } from "../records/InlineForm";

/** Gives a visit its technician, day, time and length, with that technician's day beside it. */
export function PlanForm({ visit, jobId, close }: { visit?: Visit; jobId?: number; close: () => void }) {
  const { data: choices } = useQuery(queries.choices);
  const [technicianId, setTechnicianId] = useState<number | undefined>(visit?.technicianId ?? undefined);
  const [companionIds, setCompanionIds] = useState(visit?.companions.map((person) => person.id) ?? []);
  const [day, setDay] = useState(visit?.day ?? "");
  const [start, setStart] = useState(visit?.start ? time(visit.start) : "");
  const [expected, setExpected] = useState(visit ? hours(visit.expectedMinutes) : "1:30");
  const [problem, setProblem] = useState<Problem>();
  const shownDay = useDeferredValue(day.trim());
  const body = { version: visit?.version ?? 0, technicianId, companionIds, day, start, expected };
  const save = useAct(
    (_: undefined, key) =>
      visit
        ? answer(client.PUT("/api/visits/{id}/plan", { params: { path: { id: visit.id } }, body }))
        : answer(
            client.POST("/api/jobs/{id}/visits", {
              params: { path: { id: jobId ?? 0 }, ...withKey(key) },
              body,
            }),
          ),
    { done: close, refused: setProblem },
  );
  return (
    <InlineForm
      label="Plan visit"
      confirm="Plan"
      running={save.running}
      problem={problem}
      submit={() => save.run(undefined)}
      close={close}
    >
      <label style={{ width: 160 }}>
        Technician
        <Select
          autoFocus
          aria-label="Technician for the visit"
          value={technicianId}
          onChange={(chosen) => {
            setTechnicianId(chosen);
            setCompanionIds((ids) => ids.filter((id) => id !== chosen));
          }}
          showSearch={{ optionFilterProp: "label" }}
          options={(choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name }))}
        />
      </label>
      <label style={{ width: 150 }}>
        With
        <Select
          mode="multiple"
          maxTagCount={1}
          aria-label="Who comes along"
          placeholder="nobody"
          value={companionIds}
          onChange={setCompanionIds}
          optionFilterProp="label"
          options={(choices?.technicians ?? [])
            .filter((person) => person.id !== technicianId)
            .map((person) => ({ value: person.id, label: person.name }))}
        />
      </label>
      <label style={{ width: 110 }}>
        Day
        <Input value={day} placeholder="tue, 24 nov" onChange={(event) => setDay(event.target.value)} />
      </label>
      <label style={{ width: 72 }}>
        Time
        <Input value={start} placeholder="8:30" onChange={(event) => setStart(event.target.value)} />
      </label>
      <label style={{ width: 80 }}>
        Expected
        <Input value={expected} placeholder="1:30" onChange={(event) => setExpected(event.target.value)} />
      </label>
      {technicianId && <TechnicianDay technicianId={technicianId} day={shownDay} />}
    </InlineForm>
  );
}

function TechnicianDay({ technicianId, day }: { technicianId: number; day: string }) {
  const { data } = useQuery({ ...queries.technicianDay(technicianId, day), enabled: day.length > 1 });
  if (!data?.day) {
    return null;
  }
  return (
    <div className="small soft" style={{ flexBasis: "100%" }}>
      {weekday(data.day)}:{" "}
      {data.stops.length === 0
        ? "nothing planned yet"
        : data.stops
            .map((stop) => `${time(stop.start)} ${stop.customer} (${hours(stop.expectedMinutes)})`)
            .join(" · ")}
    </div>
  );
}
