import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type {
  Block,
  Held as HeldTime,
  PlannerDay,
  Ribbon,
  TimeFound,
  WaitingVisit,
} from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday } from "../format";
import { Heading } from "../kit/Heading";
import { askedFor } from "../kit/KeyedList";
import { useRested } from "../kit/useRested";
import { useTitle } from "../kit/useTitle";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { AbsenceForm } from "./AbsenceForm";
import { ChosenVisit } from "./ChosenVisit";
import { dragIn, type Held } from "./dragging";
import { HoldLine, HoldPanel, useHold } from "./HoldPanel";
import { PlannerHead, VIEWS } from "./PlannerHead";
import { PlannerLoads } from "./PlannerLoads";
import styles from "./PlannerPage.module.css";
import { PrintPanel } from "./PrintPanel";
import { ProposalPanel } from "./ProposalPanel";
import { RelayPanel } from "./RelayPanel";
import { Ribbons } from "./Ribbons";
import { Shelf } from "./Shelf";
import { clock, drawn, minuteOf } from "./scale";
import { TownMap } from "./TownMap";
import { usePlanning } from "./usePlanning";
import { type Clash, clashWords, crew, known } from "./words";

const CALENDAR_DAY = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/;

/** A day of everybody, the visits that wait for a time, and the best times for the one that is chosen. */
export default function PlannerPage() {
  const { now } = useSession();
  const today = now.slice(0, 10);
  const { day: asked = today } = useParams();
  const [search] = useSearchParams();
  const view = askedFor(VIEWS, search.get("view"));
  const { data, error } = useQuery({
    ...queries.plannerDay(asked),
    enabled: view === "day",
    placeholderData: keepPreviousData,
  });
  // Whatever else stands in the address is read by the server, which says so when it is no day.
  const day = CALENDAR_DAY.test(asked) ? asked : (data?.day ?? today);
  useTitle(`Planner, ${view === "day" ? "" : `${view} of `}${weekday(day)}`);
  return (
    <div className={styles.page}>
      <PlannerHead day={day} today={today} view={view} shown={view === "day" ? data : undefined} />
      {view !== "day" && <PlannerLoads view={view} day={day} today={today} />}
      {view === "day" && error && <p className="fault">{error.message}</p>}
      {view === "day" && data && <Day day={data} now={data.day === today ? minuteOf(now) : undefined} />}
    </div>
  );
}

function Day({ day, now }: { day: PlannerDay; now?: number }) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const queryClient = useQueryClient();
  const mayPlan = useMay("sell");
  const [held, setHeld] = useState<Held>();
  const [away, setAway] = useState<Ribbon>();
  const [relaid, setRelaid] = useState<Ribbon>();
  const [printing, setPrinting] = useState(false);
  const [proposing, setProposing] = useState<WaitingVisit[]>();
  const [proposalId, setProposalId] = useState<number>();
  const { data: proposal } = useQuery({
    ...queries.proposal(proposalId ?? 0),
    enabled: proposalId !== undefined,
  });
  const { data: belowFloor } = useQuery(queries.jobsBelowFloor);
  const low = useMemo(() => new Set(belowFloor?.map(({ jobId }) => jobId)), [belowFloor]);
  const hold = useHold(() => {});
  const chosenId = Number(search.get("visit")) || undefined;
  const name = (personId: number) =>
    day.ribbons.find((ribbon) => ribbon.personId === personId)?.name ?? "somebody else";
  const plan = usePlanning(name, () => setHeld(undefined));
  const ofJob = Number(search.get("job")) || undefined;
  const waiting = day.waiting.find(
    (visit) => visit.visitId === chosenId || (!chosenId && visit.jobNumber === ofJob),
  );
  // Of a crew, whoever is responsible stands for it.
  const owner = day.ribbons.find((ribbon) =>
    ribbon.blocks.some((block) => block.visitId === chosenId && block.responsible),
  );
  const block = owner?.blocks.find((each) => each.visitId === chosenId);

  const choose = (visitId: number | undefined) =>
    setSearch(visitId ? { visit: String(visitId) } : {}, { replace: true });
  const companions = (visitId: number) =>
    day.ribbons
      .filter((ribbon) => ribbon.blocks.some((each) => each.visitId === visitId && !each.responsible))
      .map((ribbon) => ribbon.personId);
  const against = useAgainst(day.day, held, held ? companions(held.visit.visitId) : []);
  const drop = (dropped: Held, overruled = dropped.asked) => {
    const { visit, origin, to, holdId } = dropped;
    if (origin?.from === to.from && origin.personId === to.personId) {
      setHeld(undefined);
      return;
    }
    const along = companions(visit.visitId);
    if (!overruled) {
      void queryClient.fetchQuery(queries.clashes(visit.visitId, where(day.day, dropped, along))).then(
        ({ clashes }) => {
          const asked = holdId ? clashes.filter((clash) => !WITH_A_HOLD.includes(clash)) : clashes;
          if (asked.length > 0) {
            setHeld({ ...dropped, asked });
          } else {
            drop(dropped, []);
          }
        },
        () => drop(dropped, []),
      );
      return;
    }
    const planned = {
      visitId: visit.visitId,
      version: visit.version,
      day: day.day,
      minutes: visit.minutes,
    };
    plan.run(
      {
        ...planned,
        companionIds: along.filter((id) => id !== to.personId),
        technicianId: to.personId,
        from: to.from,
        overruled: holdId ? [...overruled, ...WITH_A_HOLD] : overruled,
        holdId,
      },
      origin
        ? {
            ...planned,
            companionIds: along,
            technicianId: origin.personId,
            from: origin.from,
            hours: hoursAlong(visit.visitId, { from: origin.from, to: origin.from + visit.minutes }),
            // Back where it was, whatever speaks against it by now.
            overruled: [...new Set([...visit.clashes, ...overruled])],
          }
        : "waiting",
    );
    choose(visit.visitId);
  };
  /** Those who come along for some hours of a visit only. */
  const hoursAlong = (visitId: number, whole: Block["at"]) =>
    day.ribbons.flatMap(({ personId, blocks }) =>
      blocks
        .filter((each) => each.visitId === visitId && !each.responsible)
        .filter(({ at }) => at.from !== whole.from || at.to !== whole.to)
        .map(({ at }) => ({ personId, ...at })),
    );
  const takeOff = (block: Block, owner: Ribbon) =>
    plan.unplan({
      hours: hoursAlong(block.visitId, block.at),
      visitId: block.visitId,
      version: block.version,
      technicianId: owner.personId,
      companionIds: companions(block.visitId),
      day: day.day,
      from: block.at.from,
      minutes: block.at.to - block.at.from,
      // Of everybody who comes, so that the step can be put back.
      overruled: day.ribbons.flatMap((ribbon) =>
        ribbon.blocks.filter(({ visitId }) => visitId === block.visitId).flatMap(({ clashes }) => clashes),
      ),
    });
  const give = (visit: WaitingVisit, kept: HeldTime, ribbon: Ribbon) =>
    drop({
      visit: { ...visit, minutes: visit.expectedMinutes, clashes: [] },
      to: { personId: ribbon.personId, from: kept.at.from },
      holdId: kept.holdId,
    });
  const take = (visit: WaitingVisit, found: TimeFound) => {
    plan.run(
      {
        visitId: visit.visitId,
        version: visit.version,
        technicianId: found.personId,
        companionIds: found.companions.map(({ id }) => id),
        day: found.day,
        from: minuteOf(`${found.day}T${found.start}`),
        minutes: visit.expectedMinutes,
        overruled: known(found),
      },
      "waiting",
    );
    navigate(`/planner/${found.day}?visit=${visit.visitId}`);
  };

  const acts = useRef({ choose, take, drop });
  acts.current = { choose, take, drop };
  // While a visit is dragged, what waits stays as it is drawn.
  const shelf = useMemo(
    () => (
      <Shelf
        waiting={day.waiting}
        inAll={day.waitingInAll}
        people={day.ribbons}
        chosen={waiting}
        choose={(visitId) => acts.current.choose(visitId)}
        take={mayPlan ? (visit, found) => acts.current.take(visit, found) : undefined}
        planAll={mayPlan ? setProposing : undefined}
        drag={
          mayPlan
            ? (event, visit) =>
                dragIn(
                  event,
                  drawn(day),
                  { ...visit, minutes: visit.expectedMinutes, clashes: [] },
                  setHeld,
                  (dropped) => acts.current.drop(dropped),
                )
            : undefined
        }
      />
    ),
    [day, waiting, mayPlan],
  );

  return (
    <div className={styles.day}>
      <div className={styles.ribbons}>
        <Ribbons
          day={day}
          now={now}
          chosen={chosenId}
          held={held}
          against={against}
          choose={(chosen) => choose(chosen.visitId)}
          open={(opened) => navigate(`/jobs/${opened.jobNumber}`)}
          hold={(next) => mayPlan && setHeld(next)}
          drop={drop}
          away={mayPlan ? setAway : undefined}
          relay={mayPlan ? setRelaid : undefined}
          keep={
            mayPlan
              ? (personId, at) =>
                  hold.run({ personId, day: day.day, at: `${clock(at.from)}-${clock(at.to)}` })
              : undefined
          }
          proposed={proposal?.visits}
          low={low}
        />
        <p className="visually-hidden" role="status">
          {held &&
            `${held.visit.customer} at ${clock(held.to.from)}, ${name(held.to.personId)}: ${against || "free"}. ${
              held.asked ? "The space bar once more puts it there all the same." : ""
            }`}
        </p>
      </div>
      {away && (
        <AbsenceForm
          personId={away.personId}
          name={away.name}
          day={day.day}
          close={() => setAway(undefined)}
        />
      )}
      <aside className={styles.beside} aria-label="Visits that wait, and the map">
        {relaid && (
          <RelayPanel
            key={`${relaid.personId} ${day.day}`}
            personId={relaid.personId}
            name={relaid.name}
            day={day.day}
            until={awayUntil(relaid, day.day)}
            close={() => setRelaid(undefined)}
          />
        )}
        {held?.asked && (
          <section className={styles.chosen}>
            <Heading part>
              {clock(held.to.from)} with {name(held.to.personId)}?
            </Heading>
            <p className="needs">{against}</p>
            <Button size="small" type="primary" loading={plan.running} onClick={() => drop(held)}>
              Put it there all the same
            </Button>{" "}
            <Button size="small" onClick={() => setHeld(undefined)}>
              Put it back
            </Button>
          </section>
        )}
        {!held?.asked && block && owner && (
          <ChosenVisit
            block={block}
            name={crew({
              person: owner.name,
              companions: companions(block.visitId).map((id) => ({ name: name(id) })),
            })}
            drive={owner.drives.find((each) => each.toVisitId === block.visitId)}
            unplan={mayPlan && block.state === "planned" ? () => takeOff(block, owner) : undefined}
          />
        )}
        {plan.steps > 0 && (
          <p>
            <Button size="small" loading={plan.running} onClick={plan.undo}>
              Put the last step back{plan.steps > 1 && ` (of ${plan.steps})`}
            </Button>
          </p>
        )}
        {mayPlan && <HoldLine ribbons={day.ribbons} day={day.day} />}
        {printing ? (
          <PrintPanel day={day.day} people={day.ribbons} close={() => setPrinting(false)} />
        ) : (
          <p>
            <button type="button" className="plain small" onClick={() => setPrinting(true)}>
              job sheets…
            </button>
          </p>
        )}
        {day.ribbons.flatMap((ribbon) =>
          ribbon.held
            .filter((kept) => kept.mine)
            .map((kept) => (
              <HoldPanel
                key={kept.holdId}
                held={kept}
                ribbon={ribbon}
                waiting={waiting ? [waiting, ...day.waiting.filter((each) => each !== waiting)] : day.waiting}
                give={(visit) => give(visit, kept, ribbon)}
              />
            )),
        )}
        {proposing && (
          <ProposalPanel
            visits={proposing}
            day={day.day}
            proposalId={proposalId}
            found={setProposalId}
            close={() => {
              setProposing(undefined);
              setProposalId(undefined);
            }}
          />
        )}
        {shelf}
        <TownMap
          day={day}
          personId={held?.to.personId ?? owner?.personId}
          point={waiting?.point ?? undefined}
        />
      </aside>
    </div>
  );
}

/** What a held time does not clash with: itself, and a promise that the customer has changed by choosing it. */
const WITH_A_HOLD: Clash[] = ["held", "after_respond_by"];

/** Until when somebody is away who is on this day. */
const awayUntil = (ribbon: Ribbon, day: string): string =>
  ribbon.away.reduce((last, { lastDay }) => (lastDay > last ? lastDay : last), day);

/** Where a held visit would be, as the server is asked about it. */
const where = (day: string, held: Held | undefined, companionIds: number[]) => ({
  technicianId: held?.to.personId ?? 0,
  companionIds: companionIds.filter((id) => id !== held?.to.personId),
  day,
  start: clock(held?.to.from ?? 0).padStart(5, "0"),
  minutes: held?.visit.minutes ?? 1,
});

/** What speaks against where the held visit is, as the server says. */
function useAgainst(day: string, held: Held | undefined, companionIds: number[]): string {
  const at = useRested(held);
  const { data } = useQuery({
    ...queries.clashes(at?.visit.visitId ?? 0, where(day, at, companionIds)),
    enabled: at !== undefined,
    placeholderData: keepPreviousData,
  });
  return held && data ? clashWords(data.clashes) : "";
}
