import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import type { Problem } from "../api/client";
import type { FinishForm, RunningClock, PocketVisit as Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, fullDay, hours, money, openHours, time, words } from "../format";
import { useTitle } from "../kit/useTitle";
import { useSession } from "../people/SessionGate";
import { visitAsTapped } from "./asTapped";
import { Break } from "./Break";
import { ChangedVisit } from "./ChangedVisit";
import { Checklists, ChecklistsSoFar, useChecklists } from "./Checklists";
import CrewTicks from "./CrewTicks";
import { clockWords } from "./clockWords";
import { ExtraWork, ExtraWorkOffers } from "./ExtraWork";
import { Finish, OUTCOMES, type Outcome } from "./Finish";
import { MessagesOnSite } from "./Messages";
import { MissingParts, WantPart } from "./MissingParts";
import { MoneyTakenSoFar, TakeMoney } from "./MoneyOnSite";
import { Accept, HandBack, Late } from "./NotAsPlanned";
import { PhotoButton, Photos } from "./Photos";
import { Arrive, EndedAt, useMinutesSince } from "./PocketForms";
import styles from "./PocketVisit.module.css";
import { sendPhotos } from "./photos";
import { SerialNumber } from "./SerialNumber";
import { TakeParts } from "./TakeParts";
import { ToldPrice } from "./ToldPrice";
import { useCarried } from "./useCarried";
import { useTap } from "./useTap";
import { type Ticked, useTicked } from "./useTicked";
import { useWaiting } from "./useWaiting";
import { Waiting } from "./Waiting";
import { WorkToDo } from "./WorkToDo";
import { useWhereabouts } from "./whereabouts";

type Taken = "drive" | "arrive" | "start_work" | "pause" | "finish";
type StepForm = {
  miles?: string;
  lineId?: number;
  note?: string;
  causeCode?: string;
  outcome?: Outcome;
  reason?: string;
  signed?: FinishForm["signed"];
  signsLater?: boolean;
  endedAt?: string;
  crewIds?: number[];
};
type Tap = { step: Taken; form: StepForm; panel: Panel };
type Panel =
  | "arrive"
  | "finish"
  | "parts"
  | "checklists"
  | "extra"
  | "money"
  | "wanted"
  | "late"
  | "price"
  | "hand-back"
  | undefined;

const OVER = ["finished", "checked", "not_this_time", "called_off"];

const SAID: Record<Taken, string> = {
  drive: "Driving.",
  arrive: "Arrived.",
  start_work: "The work is on the clock.",
  pause: "The clock is stopped.",
  finish: "Finished.",
};

/** One visit under the technician's thumb: one large button for what comes next, everything else below. */
export default function PocketVisit() {
  const id = Number(useParams().id);
  const { person } = useSession();
  const queryClient = useQueryClient();
  const { data: read, error } = useQuery(queries.pocketVisit(id));
  const kept = useWaiting();
  useCarried(read !== undefined);
  const visit = read && visitAsTapped(read, kept);
  useTitle(visit?.customer);
  const [panel, setPanel] = useState<Panel>();
  const ticked = useTicked(visit?.crew ?? [], visit?.responsible ?? false);
  const { position } = useWhereabouts();
  const [late, setLate] = useState<Tap>();
  const [problem, setProblem] = useState<Problem>();
  const [sendingPhotos, setSendingPhotos] = useState(false);
  const last = useRef<Tap>(undefined);
  const forget = useRef<() => void>(undefined);
  const act = useTap({
    done: () => {
      // What was opened while the tap was on its way stays open.
      setPanel((now) => (now === last.current?.panel ? undefined : now));
      setLate(undefined);
      setProblem(undefined);
      if (last.current?.step === "finish") {
        forget.current?.();
      }
    },
    refused: (refused) => {
      setProblem(refused);
      if (
        refused.rule === "LONGER_THAN_SIXTEEN_HOURS" ||
        (refused.rule === "CLOCK_FORGOTTEN" && visit?.runningSince)
      ) {
        setLate(last.current);
      }
    },
    said: ({ step }) => ({ text: SAID[step as Taken] }),
  });
  const take = (step: Taken, form: StepForm = {}) => {
    last.current = { step, form, panel };
    // Whoever is responsible finishes for all.
    const crew = step === "finish" ? {} : { crewIds: ticked.crewIds };
    act.run({ step, visitId: id, form: { ...form, ...crew, position: position() } });
  };
  if (error && !visit) {
    return (
      <main className="pocket">
        <Bar />
        <p className="body fault">{error.message}</p>
      </main>
    );
  }
  if (!visit) {
    return <main className="pocket" aria-busy="true" />;
  }
  const fault = problem?.faults.find((one) => one.pointer !== "")?.detail;
  return (
    <main className="pocket">
      <Bar />
      <Waiting />
      <div className="body">
        <h1>{visit.customer}</h1>
        <div className="soft">
          {visit.title} · {visit.site}, <a href={wayTo(visit)}>{visit.address}</a>
        </div>
        <ChangedVisit visit={read} />
        <div style={{ height: 12 }} />
        {visit.lateMinutes && !OVER.includes(visit.state) && visit.state !== "on_site" && (
          <p className="soft">Told to come {hours(visit.lateMinutes)} later.</p>
        )}
        {late ? (
          <EndedAt running={act.running} submit={(endedAt) => take(late.step, { ...late.form, endedAt })} />
        ) : panel === "arrive" ? (
          <Arrive
            running={act.running}
            suggested={visit.responsible ? visit.suggestedMiles : undefined}
            submit={(miles) => take("arrive", { miles })}
          />
        ) : panel === "finish" ? (
          <Finish
            visit={visit}
            running={act.running || sendingPhotos}
            submit={async (form, written) => {
              forget.current = written;
              if (wantsPhotos(visit)) {
                setSendingPhotos(true);
                await sendPhotos(person.id, queryClient).finally(() => setSendingPhotos(false));
              }
              take("finish", form);
            }}
            goThrough={() => setPanel("checklists")}
            back={() => setPanel(undefined)}
          />
        ) : panel === "late" ? (
          <Late visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "price" ? (
          <ToldPrice visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "hand-back" ? (
          <HandBack visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "parts" ? (
          <TakeParts visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "checklists" ? (
          <Checklists visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "extra" ? (
          <ExtraWork visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "money" ? (
          <TakeMoney visit={visit} back={() => setPanel(undefined)} />
        ) : panel === "wanted" ? (
          <WantPart visit={visit} back={() => setPanel(undefined)} />
        ) : (
          <>
            {visit.elsewhere && <Elsewhere clock={visit.elsewhere} />}
            <NextStep visit={visit} take={take} open={setPanel} running={act.running} ticked={ticked} />
            {!OVER.includes(visit.state) && <CrewTicks crew={visit.crew} ticked={ticked} />}
            <div className="pair">
              {visit.state !== "called_off" && visit.state !== "not_this_time" && (
                <Button onClick={() => setPanel("wanted")}>Part wanted</Button>
              )}
              {["on_site", "finished"].includes(visit.state) && (
                <>
                  <Button onClick={() => setPanel("money")}>Take money</Button>
                  <Button onClick={() => setPanel("price")}>Told a price</Button>
                </>
              )}
            </div>
          </>
        )}
        {fault && (
          <p className="fault" role="alert">
            {fault}
          </p>
        )}
      </div>
      <Facts visit={visit} start={(lineId) => take("start_work", { lineId })} />
    </main>
  );
}

/** Whether it is not finished before its photos are sent. */
const wantsPhotos = ({ beforeFinish, checklists }: Visit) =>
  beforeFinish.includes("photo") ||
  checklists.some(({ items }) => items.some(({ asks, required }) => required && asks === "photo"));

/** How long there is for it still, without what any of it is worth. */
function left({ promisedMinutes, jobLabourMinutes }: Visit) {
  const minutes = promisedMinutes - jobLabourMinutes;
  if (promisedMinutes === 0 || jobLabourMinutes === 0) {
    return undefined;
  }
  return minutes < 0 ? `${hours(-minutes)} over` : `${hours(minutes)} left`;
}

/** The phone's own map opens it (RFC 5870). */
const wayTo = ({ latitude, longitude, address }: Visit) =>
  `geo:${latitude ?? 0},${longitude ?? 0}?q=${encodeURIComponent(address)}`;

/** What one's clock says that runs elsewhere: the next tap here ends it. */
function Elsewhere({ clock }: { clock: RunningClock }) {
  const since = useMinutesSince(clock.startedAt);
  return (
    <p className="soft">
      {clockWords(clock)}, {hours(since)} so far.{" "}
      {clock.forgotten ? (
        <Link to="/pocket">Say first when you stopped</Link>
      ) : (
        "What you start here ends it."
      )}
    </p>
  );
}

function Bar() {
  return (
    <header className="bar">
      <Link to="/pocket">Today's stops</Link>
    </header>
  );
}

type NextProps = {
  visit: Visit;
  take: (step: Taken) => void;
  open: (panel: Panel) => void;
  running: boolean;
  ticked: Ticked;
};

function NextStep({ visit, take, open, running, ticked }: NextProps) {
  const since = useMinutesSince(visit.runningSince ?? undefined);
  const checklists = useChecklists(visit);
  if (OVER.includes(visit.state)) {
    return (
      <p>
        <b>{visit.outcome && visit.outcome !== "done" ? OUTCOMES[visit.outcome] : words(visit.state)}.</b>{" "}
        {hours(visit.labourMinutes)} worked, {hours(visit.driveMinutes)} driven.
        {visit.reason && ` “${visit.reason}”`}
      </p>
    );
  }
  if (visit.state === "planned") {
    return (
      <>
        <Button type="primary" className="big" loading={running} onClick={() => take("drive")}>
          <span>Start driving</span> <span>{time(visit.start)}</span>
        </Button>
        <div className="pair">
          <Button onClick={() => take("arrive")}>I am here already</Button>
          <Button onClick={() => open("late")}>I am late</Button>
          {visit.responsible && <Accept visit={visit} />}
          {visit.responsible && <Button onClick={() => open("hand-back")}>Hand it back</Button>}
        </div>
      </>
    );
  }
  if (visit.state === "driving") {
    return (
      <>
        <Button type="primary" className="big" onClick={() => open("arrive")}>
          <span>Arrive</span> <span>{hours(since)}</span>
        </Button>
        <div className="pair">
          <Button onClick={() => open("late")}>I am late</Button>
        </div>
      </>
    );
  }
  return (
    <>
      {visit.runningSince ? (
        <Button type="primary" className="big" loading={running} onClick={() => take("pause")}>
          <span>Pause work</span> <span>{hours(visit.labourMinutes + since)}</span>
        </Button>
      ) : (
        <Button type="primary" className="big" loading={running} onClick={() => take("start_work")}>
          <span>{visit.labourMinutes > 0 ? "Go on working" : "Start work"}</span>{" "}
          {visit.labourMinutes > 0 && <span>{hours(visit.labourMinutes)}</span>}
        </Button>
      )}
      <div className="pair">
        {visit.responsible ? (
          <Button onClick={() => open("finish")}>Finish</Button>
        ) : (
          <Button disabled={!visit.runningSince} onClick={() => take("pause")}>
            I am done
          </Button>
        )}
        <Button onClick={() => open("parts")}>Add parts</Button>
        <Button onClick={() => open("extra")}>Extra work</Button>
        {checklists.count > 0 && (
          <Button onClick={() => open("checklists")}>
            Checklist {checklists.answered} of {checklists.count}
          </Button>
        )}
        {visit.runningSince && <Break crewIds={ticked.crewIds} />}
      </div>
    </>
  );
}

function Facts({ visit, start }: { visit: Visit; start: (lineId: number) => void }) {
  const remove = useTap({ said: "Done." });
  const onSite = visit.state === "on_site";
  return (
    <>
      <Fact
        first={visit.contactName}
        second={<a href={`tel:${visit.contactPhone.replaceAll(" ", "")}`}>{visit.contactPhone}</a>}
      >
        {[openHours(visit), visit.accessNotes].filter(Boolean).join(". ")}
      </Fact>
      <Fact
        first="Promised"
        second={[
          hours(visit.promisedMinutes),
          left(visit),
          typeof visit.promisedNetMinor === "number" && `${money(visit.promisedNetMinor)} net`,
        ]
          .filter(Boolean)
          .join(", ")}
      >
        {visit.promised}
      </Fact>
      {visit.notes && (
        <Fact first="About the job" second="">
          {visit.notes}
        </Fact>
      )}
      {visit.toldMinor != null && (
        <Fact
          first="Told the customer"
          second={`${money(visit.toldMinor)} ${visit.toldWithVat ? "with" : "without"} VAT`}
        >
          The office reads it when it bills the job.
        </Fact>
      )}
      <WorkToDo visit={visit} start={start} />
      <MissingParts visit={visit} />
      <MessagesOnSite key={visit.visitId} visit={visit} />
      <ChecklistsSoFar visit={visit} />
      <Photos visit={visit} />
      <ExtraWorkOffers visit={visit} />
      <MoneyTakenSoFar visit={visit} />
      <div className="fact">
        <div className="first">
          <span>Used so far</span>
        </div>
        {visit.parts.length === 0 && visit.unlistedParts.length === 0 && <p>No parts yet.</p>}
        {visit.unlistedParts.map((part) => (
          <div key={`unlisted ${part.id}`} className="part-choice">
            <span>
              {part.quantity} {part.name} <span className="needs">on no list yet</span>
            </span>
            {part.id > 0 && (
              <PhotoButton
                visitId={visit.visitId}
                unlistedPartId={part.id}
                words={part.name}
                label="Photo"
                of={part.name}
              />
            )}
          </div>
        ))}
        {visit.parts.map((part) => (
          <div key={part.id}>
            <p
              style={{
                display: "flex",
                justifyContent: "space-between",
                alignItems: "center",
                minHeight: onSite ? 48 : 0,
              }}
            >
              {part.quantity} {part.unit} {part.name}
              {part.id < 0 ? (
                <span className="needs">not sent yet</span>
              ) : (
                onSite && (
                  <Button
                    className="tall"
                    aria-label={`Put back ${part.name}`}
                    onClick={() =>
                      remove.run({
                        step: "put_part_back",
                        visitId: visit.visitId,
                        form: { visitPartId: part.id },
                      })
                    }
                  >
                    Put back
                  </Button>
                )
              )}
            </p>
            {onSite && part.unrecorded > 0 && <SerialNumber visit={visit} part={part} />}
          </div>
        ))}
      </div>
      {visit.equipment && (
        <Fact first={visit.equipment} second={warranty(visit.warrantyUntil, visit.day)}>
          Job {visit.jobNumber}
        </Fact>
      )}
      {visit.otherEquipment.map((piece) => (
        <Fact key={piece.id} first={piece.name} second={warranty(piece.warrantyUntil, visit.day)}>
          Here too
        </Fact>
      ))}
      {visit.earlier.length > 0 && (
        <div className="fact">
          <div className="first">
            <span>Here before</span>
          </div>
          {visit.earlier.map((one) => (
            <p key={`${one.day} ${one.title}`}>
              {day(one.day)}, {one.technician}: {one.title}
              {[one.note && `“${one.note}”`, ...one.parts].filter(Boolean).map((said) => ` · ${said}`)}
            </p>
          ))}
        </div>
      )}
      {visit.note && (
        <Fact first="Note" second="">
          {visit.note}
        </Fact>
      )}
    </>
  );
}

const warranty = (until: string | null | undefined, on: string) =>
  until && until >= on ? `warranty to ${fullDay(until)}` : "";

function Fact({
  first,
  second,
  children,
}: {
  first: string;
  second: React.ReactNode;
  children: React.ReactNode;
}) {
  return (
    <div className="fact">
      <div className="first">
        <span>{first}</span>
        <span>{second}</span>
      </div>
      {children && <p className={styles.said}>{children}</p>}
    </div>
  );
}
