import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Radio } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type { BooksEntry, JobSheet, NotThisTimeForm, Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { PostedIn } from "../books/PostedIn";
import { ChecklistAnswers } from "../checklists/ChecklistAnswers";
import { hours, moment, time, weekday } from "../format";
import { Asking } from "../kit/Asking";
import { Money } from "../kit/figures";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { type Fill, State } from "../kit/State";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import { PartsWantedLines } from "../partswanted/PartsWantedLines";
import { WantPartForm } from "../partswanted/WantPartForm";
import { useMay } from "../people/useMay";
import { CrewHoursForm, hoursOf } from "../planning/CrewHours";
import { JobNeeds } from "../planning/JobNeeds";
import { LineVisits } from "../planning/LineVisits";
import { NeedsForm, PartArrival, WaitingVisitForm } from "../planning/NeedsForm";
import { PlanForm } from "../planning/PlanForm";
import { partWords } from "../planning/words";
import { useGoesOn } from "../rounds/OfRound";
import { BillFile } from "./BillFile";
import { AddPartForm, OtherCostForm, QuantityForm, TimeForm } from "./CorrectionForms";
import { OUTCOMES } from "./Finish";
import { MessagesOfJob } from "./Messages";
import { Signed } from "./Signed";
import { TheirPage } from "./TheirPage";
import { UnlistedParts } from "./UnlistedParts";
import { useReopen } from "./useReopen";
import { VisitPhotos } from "./VisitPhotos";
import { PartRow, TimeRow } from "./WorkedRows";
import styles from "./WorkSection.module.css";

/** What was done: each visit with its clocks and parts, and the office's corrections. */
export function WorkSection({ job }: { job: JobSheet }) {
  const mayRecord = useMay("record_work");
  const [form, setForm] = useState<"visit" | "waiting" | "other" | "part">();
  const { data: parts } = useQuery(queries.partsWantedOfJob(job.id));
  const { data: signatures } = useQuery(queries.signatures(job.id));
  const { data: photos } = useQuery(queries.photosOfJob(job.id));
  const { data: answered } = useQuery(queries.checklistsOfJob(job.id));
  const waitsForParts = parts?.some((part) => part.closedAt == null) ?? false;
  const running = job.billing.state === "unbilled" && job.state !== "called_off";
  const editable = running && mayRecord;
  // What comes when the job is closed is cost, and is charged no more.
  const late = !running && mayRecord;
  const close = () => setForm(undefined);
  return (
    <Section name="Work">
      {job.visits.map((visit) => (
        <div key={visit.id}>
          <VisitBlock
            jobId={job.id}
            journal={job.journal}
            visit={visit}
            ahead={job.visits.filter(({ id, state }) => state === "planned" && id !== visit.id)}
            editable={editable}
            late={late}
            saysPart={!waitsForParts}
          />
          <Signed
            jobId={job.id}
            visit={visit}
            signature={signatures?.find((one) => one.visitId === visit.id)}
            editable={mayRecord}
          />
          <ChecklistAnswers
            visitId={visit.id}
            checklists={answered?.find((one) => one.visitId === visit.id)?.checklists ?? []}
            photographed={new Set(photos?.map((photo) => photo.checklistItemId))}
            editable={mayRecord}
          />
          <VisitPhotos
            photos={photos?.filter((photo) => photo.visitId === visit.id) ?? []}
            editable={mayRecord}
          />
        </div>
      ))}
      <MessagesOfJob key={job.id} jobId={job.id} editable={mayRecord} />
      <TheirPage jobId={job.id} editable={mayRecord} />
      {job.visits.length === 0 && <span className="soft">No visit is planned.</span>}
      <UnlistedParts jobId={job.id} editable={editable} />
      <JobNeeds jobId={job.id} editable={editable} />
      <LineVisits jobId={job.id} editable={editable} />
      <PartsWantedLines parts={parts ?? []} editable={editable} />
      {job.otherCosts.length > 0 && (
        <Lines
          caption="Suppliers' bills"
          columns={[
            { name: "What for", silent: true },
            { name: "Cost", silent: true, figure: true },
          ]}
        >
          {job.otherCosts.map((cost) => (
            <tr key={cost.id}>
              <td>
                {cost.supplier}: {cost.description}
                {cost.passedOn !== "with_markup" && (
                  <span className="soft small">
                    , {cost.passedOn === "at_cost" ? "passed on at cost" : "not passed on"}
                  </span>
                )}{" "}
                <BillFile cost={cost} editable={mayRecord} />{" "}
                <PostedIn journal={job.journal} kind="other_cost" id={cost.id} />
              </td>
              <td className="figure">
                <Money minor={cost.costMinor} />
              </td>
            </tr>
          ))}
        </Lines>
      )}

      {form === "visit" && <PlanForm jobId={job.id} close={close} />}
      {form === "waiting" && (
        <WaitingVisitForm
          jobId={job.id}
          others={job.visits
            .filter((visit) => visit.state !== "called_off" && visit.state !== "not_this_time")
            .map((visit) => ({ visitId: visit.id, state: visit.state, day: visit.day }))}
          close={close}
        />
      )}
      {form === "part" && <WantPartForm jobId={job.id} close={close} />}
      {form === "other" && <OtherCostForm jobId={job.id} close={close} />}
      {(editable || late) && !form && (
        <div className={styles.further}>
          {editable && (
            <Word id={`visit-of-${job.id}`} run={() => setForm("visit")}>
              Another visit
            </Word>
          )}
          {editable && (
            <Word id={`waiting-visit-of-${job.id}`} run={() => setForm("waiting")}>
              Another that waits
            </Word>
          )}
          {editable && (
            <Word id={`part-of-${job.id}`} run={() => setForm("part")}>
              Part wanted
            </Word>
          )}
          <Word id={`bill-of-${job.id}`} run={() => setForm("other")}>
            {late ? "Late supplier's bill" : "Supplier's bill"}
          </Word>
        </div>
      )}
    </Section>
  );
}

const FILLS: Partial<Record<Visit["state"], Fill>> = {
  unplanned: "wanting",
  driving: "running",
  on_site: "running",
  finished: "finished",
  checked: "finished",
};

/** What a visit waits for that has not begun: ", waits for ram, not before Fri 4 Dec". */
function waits(visit: Visit): string {
  const day = !visit.partArrived && visit.notBefore && `not before ${weekday(visit.notBefore)}`;
  return ["unplanned", "planned"].includes(visit.state)
    ? [partWords(visit), day]
        .filter(Boolean)
        .map((part) => `, ${part}`)
        .join("")
    : "";
}

/** A visit as it is named where it is not seen: "visit of Tue 24 Nov". */
const named = (visit: Visit) =>
  visit.day ? `the visit of ${weekday(visit.day)}` : "the visit without a day";

type Editing =
  | { kind: "plan" | "needs" | "add-time" | "add-part" }
  | { kind: "hours"; id: number }
  | { kind: "time"; id: number }
  | { kind: "part"; id: number };

function VisitBlock({
  jobId,
  journal,
  visit,
  ahead,
  editable,
  late,
  saysPart,
}: {
  jobId: number;
  journal: BooksEntry[];
  visit: Visit;
  /** Other visits of the job that are planned. */
  ahead: Visit[];
  editable: boolean;
  late: boolean;
  /** Whether it is said here that its part is there; not where that is said of the parts themselves. */
  saysPart: boolean;
}) {
  const [editing, setEditing] = useState<Editing>();
  const close = () => setEditing(undefined);
  const takesLate = (late || (editable && visit.billed)) && visit.technicianId != null;
  const correctable = (editable && visit.takesRecords) || takesLate;
  return (
    <div className={styles.visit} data-visit={visit.id}>
      <div className={styles.head}>
        <span>{visit.day ? weekday(visit.day) : "No day yet"}</span>
        <b>
          {visit.technician ? (
            <PersonsDay id={visit.technicianId} name={visit.technician} day={visit.day} />
          ) : (
            "nobody yet"
          )}
        </b>
        {visit.companions.length > 0 && (
          <span>
            with{" "}
            {visit.companions.map((person, place) => (
              <span key={person.id}>
                {place > 0 && ", "}
                <PersonsDay id={person.id} name={person.name} day={visit.day} />
                {person.from && <span className="soft small"> {hoursOf(person)}</span>}
                {editable && visit.state === "planned" && (
                  <>
                    {" "}
                    <Word
                      id={`hours-of-${visit.id}-${person.id}`}
                      of={`of ${person.name} on ${named(visit)}`}
                      run={() => setEditing({ kind: "hours", id: person.id })}
                    >
                      Hours
                    </Word>
                  </>
                )}
              </span>
            ))}
          </span>
        )}
        <span className="soft small">
          {visit.replacesId && "in place of one that did not happen, "}
          {visit.start &&
            `planned ${visit.plannedDay && visit.plannedDay !== visit.day ? `${weekday(visit.plannedDay)} ` : ""}${time(visit.start)}, `}
          {hours(visit.expectedMinutes)}
          {waits(visit)}
        </span>
        <State state={visit.state} fill={FILLS[visit.state] ?? "planned"} />
        {editable && saysPart && visit.awaitedPart && ["unplanned", "planned"].includes(visit.state) && (
          <PartArrival visit={visit} />
        )}
        {editable && <VisitActions jobId={jobId} visit={visit} ahead={ahead} setEditing={setEditing} />}
        {takesLate && (
          <span className={styles.actions}>
            <Word
              id={`late-time-${visit.id}`}
              of={`for ${named(visit)}`}
              run={() => setEditing({ kind: "add-time" })}
            >
              Late time
            </Word>
            <Word
              id={`late-part-${visit.id}`}
              of={`for ${named(visit)}`}
              run={() => setEditing({ kind: "add-part" })}
            >
              Late part
            </Word>
          </span>
        )}
      </div>
      {editing?.kind === "plan" && <PlanForm visit={visit} close={close} />}
      {editing?.kind === "hours" &&
        visit.companions
          .filter((person) => person.id === editing.id)
          .map((person) => <CrewHoursForm key={person.id} visit={visit} companion={person} close={close} />)}
      {editing?.kind === "needs" && <NeedsForm visitId={visit.id} close={close} />}
      {visit.times.length + visit.parts.length + visit.drivesHome.length > 0 && (
        <Lines caption={`Time and parts of ${named(visit)}`} columns={COLUMNS}>
          {visit.times.map((entry) =>
            editing?.kind === "time" && editing.id === entry.id ? (
              <tr key={entry.id}>
                <td colSpan={6}>
                  <TimeForm entry={entry} close={close} />
                </td>
              </tr>
            ) : (
              <TimeRow
                key={entry.id}
                jobId={jobId}
                visitId={visit.id}
                journal={journal}
                entry={entry}
                helper={entry.personId === visit.technicianId ? undefined : entry.person}
                milesMissing={visit.milesMissing && entry.kind === "drive"}
                edit={correctable ? () => setEditing({ kind: "time", id: entry.id }) : undefined}
              />
            ),
          )}
          {visit.drivesHome.map((share) => (
            <tr key={`home-${share.timeEntryId}`}>
              <td>
                <Link to={`/people/${share.personId}/days/${share.day}`}>its share</Link>
              </td>
              <td>
                Drive home
                {share.personId !== visit.technicianId && `, ${share.person}`}
                <span className="soft">, not charged</span>
              </td>
              <td className="figure">{hours(share.minutes)}</td>
              <td />
              <td className="figure">{share.miles > 0 && share.miles}</td>
              <td className="figure">
                <Money soft minor={share.costMinor} />
              </td>
            </tr>
          ))}
          {visit.parts.map((part) =>
            editing?.kind === "part" && editing.id === part.id ? (
              <tr key={`part-${part.id}`}>
                <td colSpan={6}>
                  <QuantityForm part={part} close={close} />
                </td>
              </tr>
            ) : (
              <PartRow
                key={`part-${part.id}`}
                part={part}
                journal={journal}
                editable={editable}
                edit={correctable ? () => setEditing({ kind: "part", id: part.id }) : undefined}
              />
            ),
          )}
        </Lines>
      )}
      {editing?.kind === "add-time" && <TimeForm visit={visit} close={close} />}
      {editing?.kind === "add-part" && <AddPartForm visitId={visit.id} close={close} />}
      {visit.unsentThings > 0 && (
        <div className="needs">
          A phone still has {visit.unsentThings === 1 ? "one thing" : `${visit.unsentThings} things`} of this
          visit to send.
        </div>
      )}
      {visit.labourMissing && <div className="needs">No working time is on the clock.</div>}
      {visit.note && <div className="soft">“{visit.note}”</div>}
      {visit.acceptedAt && visit.state === "planned" && (
        <div className="soft small">
          {visit.technician} has accepted it, {moment(visit.acceptedAt)}.
        </div>
      )}
      {visit.lateMinutes && (visit.state === "planned" || visit.state === "driving") && (
        <div className="needs small">Comes {hours(visit.lateMinutes)} later than planned.</div>
      )}
      {visit.reason && (
        <div className="needs small">
          {visit.outcome && visit.outcome !== "done" && `${OUTCOMES[visit.outcome]}: `}
          {visit.reason}
        </div>
      )}
    </div>
  );
}

const COLUMNS = [
  { name: "From to, or how many", silent: true, width: 118 },
  { name: "What", silent: true },
  { name: "normal", figure: true, width: 64 },
  { name: "overtime", figure: true, width: 72 },
  { name: "miles", figure: true, width: 56 },
  { name: "cost", figure: true, width: 76 },
];

/** Leads to all that somebody did on the day of a visit. */
function PersonsDay({ id, name, day }: { id?: number | null; name: string; day?: string | null }) {
  return id && day ? <Link to={`/people/${id}/days/${day}`}>{name}</Link> : name;
}

type PartsNow = NotThisTimeForm["parts"];

function VisitActions({
  jobId,
  visit,
  ahead,
  setEditing,
}: {
  jobId: number;
  visit: Visit;
  /** Other visits of the job that are planned. */
  ahead: Visit[];
  setEditing: (editing: Editing) => void;
}) {
  const goesOn = useGoesOn(jobId, visit.id);
  const [along, setAlong] = useState<number[]>([]);
  const [parts, setParts] = useState<PartsNow>();
  const path = { params: { path: { id: visit.id } } };
  const notThisTime = useAct(
    (reason: string) =>
      answer(
        client.POST("/api/visits/{id}/not-this-time", {
          ...path,
          body: { version: visit.version, reason, parts },
        }),
      ),
    {
      said: goesOn
        ? `Not this time: the job is called off, and ${goesOn}.`
        : "Not this time: a new visit without a time takes its place.",
    },
  );
  const callOff = useAct(
    (reason: string) =>
      answer(
        client.POST("/api/visits/{id}/call-off", {
          ...path,
          body: {
            version: visit.version,
            reason,
            others: ahead
              .filter(({ id }) => along.includes(id))
              .map(({ id, version }) => ({ visitId: id, version })),
            parts,
          },
        }),
      ),
    {
      said: () => ({
        text: `Called off: ${[visit, ...ahead.filter(({ id }) => along.includes(id))].map(named).join(", ")}.`,
      }),
    },
  );
  const reopen = useReopen();
  const of = `for ${named(visit)}`;
  const whereParts = visit.parts.length > 0 && (
    <fieldset className={styles.along}>
      <legend>Where are its parts: {visit.parts.map(({ name }) => name).join(", ")}?</legend>
      <Radio.Group
        value={parts}
        onChange={({ target }) => setParts(target.value)}
        options={[
          { value: "back_in_the_van", label: "back in the van" },
          { value: "stayed_there", label: "they stayed there: the job bears what they cost" },
        ]}
      />
    </fieldset>
  );
  const droppable = ["planned", "driving", "on_site", "finished"].includes(visit.state);
  return (
    <span className={styles.actions}>
      {visit.state === "unplanned" && (
        <Button size="small" type="primary" onClick={() => setEditing({ kind: "plan" })}>
          Plan this visit
        </Button>
      )}
      {visit.state === "planned" && (
        <Word id={`move-${visit.id}`} of={named(visit)} run={() => setEditing({ kind: "plan" })}>
          Move
        </Word>
      )}
      {(visit.state === "unplanned" || visit.state === "planned") && (
        <Word id={`needs-${visit.id}`} of={`of ${named(visit)}`} run={() => setEditing({ kind: "needs" })}>
          Needs
        </Word>
      )}
      {visit.takesRecords && (
        <>
          <Word id={`add-time-${visit.id}`} of={of} run={() => setEditing({ kind: "add-time" })}>
            Add time
          </Word>
          {visit.state !== "planned" && (
            <Word id={`add-part-${visit.id}`} of={of} run={() => setEditing({ kind: "add-part" })}>
              Add part
            </Word>
          )}
        </>
      )}
      {droppable && (
        <>
          <Asking
            plain
            label="Not this time…"
            of={of}
            title="The visit did not happen?"
            question={
              goesOn
                ? `Why? Nothing is billed for it. The job is called off, and ${goesOn}.`
                : "Why? A new visit without a time takes its place; nothing is billed for this one."
            }
            confirm="Not this time"
            further={whereParts}
            run={notThisTime.run}
          />
          <Asking
            plain
            label="Call off…"
            of={named(visit)}
            title="Call this visit off?"
            question="Why? Nothing is billed for it."
            confirm="Call off"
            further={
              <>
                {whereParts}
                {ahead.length > 0 && (
                  <fieldset className={styles.along}>
                    <legend>Other visits are planned. Which go with it?</legend>
                    {ahead.map((other) => (
                      <Checkbox
                        key={other.id}
                        checked={along.includes(other.id)}
                        onChange={({ target }) =>
                          setAlong((ids) =>
                            target.checked ? [...ids, other.id] : ids.filter((id) => id !== other.id),
                          )
                        }
                      >
                        {named(other)}
                      </Checkbox>
                    ))}
                  </fieldset>
                )}
              </>
            }
            run={callOff.run}
          />
        </>
      )}
      {visit.state === "checked" && !visit.billed && (
        <Word id={`reopen-${visit.id}`} of={`of ${named(visit)}`} run={() => reopen.run(visit)}>
          Take the check back
        </Word>
      )}
    </span>
  );
}
