import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { Availability, Skill, Technician } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, fullDay, headline, weekday } from "../format";
import { DeleteButton } from "../kit/DeleteButton";
import { Lines } from "../kit/Lines";
import { latest } from "../kit/latest";
import { RecordForm } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { KeptSection } from "../people/KeptSection";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { AbsenceForm } from "./AbsenceForm";
import { clock } from "./scale";

const WEEKDAYS = ["MONDAY", "TUESDAY", "WEDNESDAY", "THURSDAY", "FRIDAY", "SATURDAY", "SUNDAY"] as const;

type Open =
  | { form: "skill"; skill?: Skill }
  | { form: "skills" | "area" | "week" | "absence"; technician: Technician };

/** What technicians know, when they work and when they are away, and what kinds of job ask for. */
export function AvailabilitySettings() {
  const { data, error } = useQuery(queries.availability);
  const { data: choices } = useQuery(queries.choices);
  const { now } = useSession();
  const mayChange = useMay("change_settings");
  const [open, setOpen] = useState<Open>();
  const close = () => setOpen(undefined);
  const kinds = (ids: number[]) =>
    (choices?.kindsOfJob ?? [])
      .filter((kind) => ids.includes(kind.id))
      .map((kind) => kind.name)
      .join(", ");
  return (
    <KeptSection name="Skills and hours" error={error} add={() => setOpen({ form: "skill" })}>
      {data && (
        <>
          <Lines
            caption="Skills"
            columns={[
              { name: "Skill or certificate" },
              { name: "Asked for by" },
              { name: "What can be done", silent: true },
            ]}
          >
            {data.skills.map((skill) => (
              <tr key={skill.id}>
                <td>{skill.name}</td>
                <td>{kinds(skill.kindOfJobIds) || "no kind of job"}</td>
                <td className="figure">
                  {mayChange && (
                    <Edit what={`skill ${skill.name}`} run={() => setOpen({ form: "skill", skill })} />
                  )}
                </td>
              </tr>
            ))}
          </Lines>
          <Lines
            caption="Technicians"
            columns={[
              { name: "Technician" },
              { name: "Knows" },
              { name: "Goes to" },
              { name: "Works" },
              { name: "Away" },
            ]}
          >
            {data.technicians.map((technician) => (
              <tr key={technician.personId}>
                <td>{technician.name}</td>
                <td>
                  <Knows technician={technician} skills={data.skills} today={now.slice(0, 10)} />{" "}
                  {mayChange && (
                    <Edit
                      what={`what ${technician.name} knows`}
                      run={() => setOpen({ form: "skills", technician })}
                    />
                  )}
                </td>
                <td>
                  {technician.districts.length > 0 ? technician.districts.join(", ") : "everywhere"}
                  {technician.base ? `, from ${technician.base}` : ", from the first stop"}{" "}
                  {mayChange && (
                    <Edit
                      what={`where ${technician.name} goes`}
                      run={() => setOpen({ form: "area", technician })}
                    />
                  )}
                </td>
                <td>
                  {technician.weeks.length === 0
                    ? "the company’s hours "
                    : technician.weeks.map((week) => (
                        <div key={week.fromDay}>
                          {week.fromDay > now.slice(0, 10) && `from ${fullDay(week.fromDay)}: `}
                          {written(week.days)}
                        </div>
                      ))}
                  {mayChange && (
                    <Edit
                      what={`when ${technician.name} works`}
                      run={() => setOpen({ form: "week", technician })}
                    />
                  )}
                </td>
                <td>
                  {technician.absences.map((absence) => (
                    <Away key={absence.id} absence={absence} name={technician.name} mayChange={mayChange} />
                  ))}
                  {mayChange && (
                    <button
                      type="button"
                      className="plain small"
                      aria-label={`add an absence of ${technician.name}`}
                      onClick={() => setOpen({ form: "absence", technician })}
                    >
                      add
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </Lines>
        </>
      )}
      {data && open?.form === "skill" && (
        <SkillForm
          skill={open.skill && latest(data.skills, open.skill)}
          version={data.version}
          close={close}
        />
      )}
      {data && open?.form === "skills" && (
        <SkillsForm technician={open.technician} availability={data} close={close} />
      )}
      {data && open?.form === "area" && (
        <AreaForm technician={open.technician} version={data.version} close={close} />
      )}
      {data && open?.form === "week" && (
        <WeekForm technician={open.technician} version={data.version} close={close} />
      )}
      {open?.form === "absence" && (
        <AbsenceForm
          personId={open.technician.personId}
          name={open.technician.name}
          day={now.slice(0, 10)}
          close={close}
        />
      )}
    </KeptSection>
  );
}

const Edit = ({ what, run }: { what: string; run: () => void }) => (
  <button type="button" className="plain small" aria-label={`edit ${what}`} onClick={run}>
    edit
  </button>
);

/** What somebody knows; a certificate that has run out counts as none and is said to have. */
function Knows({ technician, skills, today }: { technician: Technician; skills: Skill[]; today: string }) {
  if (technician.skills.length === 0) {
    return <span className="soft">nothing noted</span>;
  }
  return technician.skills.map(({ skillId, until }) => (
    <div key={skillId} className={until && until < today ? "needs" : undefined}>
      {skills.find(({ id }) => id === skillId)?.name}
      {until && (until < today ? `, ran out ${fullDay(until)}` : ` until ${fullDay(until)}`)}
    </div>
  ));
}

/** A week as it is read: "Mon to Thu 8:00 to 17:00, Fri 8:00 to 14:00"; weekdays alike are put together. */
function written(days: Technician["weeks"][number]["days"]): string {
  const runs: { first: string; last: string; hours: string }[] = [];
  let before = "";
  for (const weekday of WEEKDAYS) {
    const at = days[weekday];
    const hours = at ? `${clock(at.from)} to ${clock(at.to)}` : "";
    const name = headline(weekday.slice(0, 3).toLowerCase());
    const run = runs.at(-1);
    if (hours && run && hours === before) {
      run.last = name;
    } else if (hours) {
      runs.push({ first: name, last: name, hours });
    }
    before = hours;
  }
  return (
    runs
      .map(({ first, last, hours }) => `${first === last ? first : `${first} to ${last}`} ${hours}`)
      .join(", ") || "not at all"
  );
}

function Away({
  absence,
  name,
  mayChange,
}: {
  absence: Technician["absences"][number];
  name: string;
  mayChange: boolean;
}) {
  const remove = useAct(
    () => answer(client.DELETE("/api/absences/{id}", { params: { path: { id: absence.id } } })),
    { said: `${name} is there after all.` },
  );
  return (
    <div>
      {headline(absence.kind)} {weekday(absence.firstDay)}
      {absence.lastDay > absence.firstDay && ` to ${day(absence.lastDay)}`}
      {absence.starts && absence.ends && ` ${absence.starts.slice(0, 5)} to ${absence.ends.slice(0, 5)}`}{" "}
      {mayChange && (
        <button
          type="button"
          className="plain small"
          aria-label={`take back ${absence.kind} of ${name} on ${weekday(absence.firstDay)}`}
          onClick={() => remove.run()}
        >
          take back
        </button>
      )}
    </div>
  );
}

function SkillForm({ skill, version, close }: { skill?: Skill; version: number; close: () => void }) {
  const { data: choices } = useQuery(queries.choices);
  const kinds = choices?.kindsOfJob ?? [];
  return (
    <RecordForm
      title={skill ? skill.name : "Another skill"}
      confirm="Keep skill"
      fields={[
        { name: "name", label: "Name", needed: true, hint: "such as a certificate" },
        ...kinds.map((kind) => ({
          name: `kind-${kind.id}`,
          label: `${kind.name} asks for it`,
          kind: "tick" as const,
        })),
      ]}
      initial={{
        name: skill?.name ?? "",
        ...Object.fromEntries(
          kinds.map((kind) => [`kind-${kind.id}`, skill?.kindOfJobIds.includes(kind.id) ?? false]),
        ),
      }}
      version={version}
      save={(values, _key, version) => {
        const body = {
          version,
          name: String(values.name ?? ""),
          kindOfJobIds: kinds.filter((kind) => values[`kind-${kind.id}`] === true).map((kind) => kind.id),
        };
        return skill
          ? answer(client.PUT("/api/settings/skills/{id}", { params: { path: { id: skill.id } }, body }))
          : answer(client.POST("/api/settings/skills", { body }));
      }}
      close={close}
      aside={
        skill && (
          <DeleteButton
            what={skill.name}
            path="/api/settings/skills/{id}"
            record={{ id: skill.id, version }}
            close={close}
          />
        )
      }
    />
  );
}

function SkillsForm({
  technician,
  availability,
  close,
}: {
  technician: Technician;
  availability: Availability;
  close: () => void;
}) {
  const held = (skill: Skill) => technician.skills.find(({ skillId }) => skillId === skill.id);
  return (
    <RecordForm
      title={`What ${technician.name} knows`}
      confirm="Keep skills"
      fields={availability.skills.flatMap((skill) => [
        { name: `has-${skill.id}`, label: skill.name, kind: "tick" as const },
        { name: `until-${skill.id}`, label: `${skill.name} until`, hint: "empty where it does not run out" },
      ])}
      initial={Object.fromEntries(
        availability.skills.flatMap((skill) => {
          const until = held(skill)?.until;
          return [
            [`has-${skill.id}`, held(skill) !== undefined],
            [`until-${skill.id}`, until ? fullDay(until) : ""],
          ];
        }),
      )}
      version={availability.version}
      save={(values, _key, version) =>
        answer(
          client.PUT("/api/settings/availability/{personId}/skills", {
            params: { path: { personId: technician.personId } },
            body: {
              version,
              skills: availability.skills
                .filter((skill) => values[`has-${skill.id}`] === true)
                .map((skill) => ({ skillId: skill.id, until: String(values[`until-${skill.id}`] ?? "") })),
            },
          }),
        )
      }
      close={close}
    />
  );
}

function AreaForm({
  technician,
  version,
  close,
}: {
  technician: Technician;
  version: number;
  close: () => void;
}) {
  return (
    <RecordForm
      title={`Where ${technician.name} goes`}
      confirm="Keep area"
      fields={[
        { name: "districts", label: "Postcode districts", hint: "OS1, OS2; empty for everywhere" },
        { name: "base", label: "The day begins and ends in", hint: "OS3; empty for at the first stop" },
      ]}
      initial={{ districts: technician.districts.join(", "), base: technician.base }}
      version={version}
      save={(values, _key, version) =>
        answer(
          client.PUT("/api/settings/availability/{personId}/area", {
            params: { path: { personId: technician.personId } },
            body: { version, districts: String(values.districts ?? ""), base: String(values.base ?? "") },
          }),
        )
      }
      close={close}
    />
  );
}

function WeekForm({
  technician,
  version,
  close,
}: {
  technician: Technician;
  version: number;
  close: () => void;
}) {
  const week = technician.weeks.at(-1)?.days;
  return (
    <RecordForm
      title={`When ${technician.name} works`}
      confirm="Keep week"
      fields={[
        { name: "fromDay", label: "From", needed: true, hint: "today, or 1 jan" },
        ...WEEKDAYS.map((weekday) => ({
          name: weekday.toLowerCase(),
          label: headline(weekday.toLowerCase()),
          half: true,
          hint: "8:00 to 17:00; empty for a free day",
        })),
      ]}
      initial={{
        fromDay: "today",
        ...Object.fromEntries(
          WEEKDAYS.map((weekday) => {
            const at = week?.[weekday];
            return [weekday.toLowerCase(), at ? `${clock(at.from)} to ${clock(at.to)}` : ""];
          }),
        ),
      }}
      version={version}
      save={(values, _key, version) => {
        const typed = (weekday: string) => String(values[weekday] ?? "");
        return answer(
          client.PUT("/api/settings/availability/{personId}/week", {
            params: { path: { personId: technician.personId } },
            body: {
              version,
              fromDay: typed("fromDay"),
              monday: typed("monday"),
              tuesday: typed("tuesday"),
              wednesday: typed("wednesday"),
              thursday: typed("thursday"),
              friday: typed("friday"),
              saturday: typed("saturday"),
              sunday: typed("sunday"),
            },
          }),
        );
      }}
      close={close}
    />
  );
}
