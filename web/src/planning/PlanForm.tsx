import { useQuery } from "@tanstack/react-query";
import { Input, Select } from "antd";
import { useDeferredValue, useState } from "react";
import { answer, client, type Problem, withKey } from "../api/client";
import type { Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../api/useAct";
import { hours, time, weekday } from "../format";
import { InlineForm } from "../records/InlineForm";
import { Overtaken } from "../records/Overtaken";
import { useTyped } from "../records/useTyped";

/** Gives a visit its technician, day, time and length, with that technician's day beside it. */
export function PlanForm({ visit, jobId, close }: { visit?: Visit; jobId?: number; close: () => void }) {
  const { data: choices } = useQuery(queries.choices);
  const typed = useTyped({
    version: visit?.version ?? 0,
    draft: {
      technicianId: visit?.technicianId ?? undefined,
      companionIds: visit?.companions.map((person) => person.id) ?? [],
      day: visit?.day ?? "",
      start: visit?.start ? time(visit.start) : "",
      expected: visit ? hours(visit.expectedMinutes) : "1:30",
    },
  });
  const { technicianId, companionIds, day, start, expected } = typed.draft;
  const change = (changed: Partial<typeof typed.draft>) => typed.change({ ...typed.draft, ...changed });
  const [problem, setProblem] = useState<Problem>();
  const shownDay = useDeferredValue(day.trim());
  const body = { version: typed.version, ...typed.draft };
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
      {!save.running && (
        <Overtaken
          what="this plan"
          typed={typed}
          names={{ technicianId: "Technician", companionIds: "With", start: "Time" }}
          show={(value, field) => {
            const people = field === "technicianId" || field === "companionIds" ? [value].flat() : undefined;
            return people
              ? people.map((id) => choices?.technicians.find((one) => one.id === id)?.name).join(", ") ||
                  "nobody"
              : `“${value}”`;
          }}
        />
      )}
      <label style={{ width: 160 }}>
        Technician
        <Select
          autoFocus
          aria-label="Technician for the visit"
          value={technicianId}
          onChange={(chosen) =>
            change({ technicianId: chosen, companionIds: companionIds.filter((id) => id !== chosen) })
          }
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
          onChange={(chosen) => change({ companionIds: chosen })}
          optionFilterProp="label"
          options={(choices?.technicians ?? [])
            .filter((person) => person.id !== technicianId)
            .map((person) => ({ value: person.id, label: person.name }))}
        />
      </label>
      <label style={{ width: 110 }}>
        Day
        <Input
          value={day}
          placeholder="tue, 24 nov"
          onChange={(event) => change({ day: event.target.value })}
        />
      </label>
      <label style={{ width: 72 }}>
        Time
        <Input value={start} placeholder="8:30" onChange={(event) => change({ start: event.target.value })} />
      </label>
      <label style={{ width: 80 }}>
        Expected
        <Input
          value={expected}
          placeholder="1:30"
          onChange={(event) => change({ expected: event.target.value })}
        />
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
