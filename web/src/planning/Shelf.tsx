import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type PointerEvent, useDeferredValue, useState } from "react";
import type { TimeFound, WaitingVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { headline, hours } from "../format";
import { CREWS, people as counted } from "../kit/crews";
import { Heading } from "../kit/Heading";
import { KeyedList, moved, rowId, useKeptInSight } from "../kit/KeyedList";
import { Select } from "../kit/Select";
import { useKeys } from "../kit/useKeys";
import { usePortions } from "../kit/usePortions";
import { PartArrival } from "./NeedsForm";
import styles from "./Shelf.module.css";
import { type Asked, TimesFound } from "./TimesFound";
import { promised, waitsFor } from "./words";

/** More waiting visits than a screen shows at once. */
const IN_SIGHT = 20;

/** Which of the waiting visits are shown. */
type Filter = { area?: string; skill?: string; kindOfJob?: string; part?: string };

/** The visits that wait for a time, whoever was promised first at the top; 1, 2 and 3 take a time for the chosen one. */
export function Shelf({
  waiting: all,
  inAll,
  people,
  chosen,
  choose,
  take,
  planAll,
  drag,
}: {
  waiting: WaitingVisit[];
  /** How many wait, should there be too many to show. */
  inAll: number;
  people: { personId: number; name: string }[];
  chosen: WaitingVisit | undefined;
  choose: (visitId: number | undefined) => void;
  take?: (visit: WaitingVisit, found: TimeFound) => void;
  /** Has the program propose a plan for these; nothing for whoever may not. */
  planAll?: (visits: WaitingVisit[]) => void;
  /** Takes a visit over to a ribbon with the pointer; nothing for whoever may not. */
  drag?: (down: PointerEvent, visit: WaitingVisit) => void;
}) {
  const [asked, setAsked] = useState<Asked>({});
  const [filter, setFilter] = useState<Filter>({});
  const waiting = all.filter(
    (visit) =>
      (!filter.area || visit.area === filter.area) &&
      (!filter.kindOfJob || visit.kindOfJob === filter.kindOfJob) &&
      (!filter.skill || visit.skills.includes(filter.skill)) &&
      (!filter.part || partOf(visit) === filter.part),
  );
  const shown = usePortions(waiting.length, IN_SIGHT);
  const from = useDeferredValue(asked.from);
  const wanted = { ...asked, from };
  const times = useQuery({
    ...queries.timesFound(chosen?.visitId ?? 0, wanted),
    enabled: chosen !== undefined,
  });
  const nth = (index: number) => {
    const found = times.data?.times[index];
    if (chosen && found && take) {
      take(chosen, found);
    }
  };
  useKeys({ 1: () => nth(0), 2: () => nth(1), 3: () => nth(2) });
  const total = waiting.reduce((sum, visit) => sum + visit.expectedMinutes, 0);
  const index = chosen ? waiting.indexOf(chosen) : -1;
  return (
    <>
      {chosen && take && (
        <section className={styles.times}>
          <Heading part>Best times for J {chosen.jobNumber}</Heading>
          <div className="small soft">
            {chosen.customer}, {chosen.title}. Needs {hours(chosen.expectedMinutes)}
            {chosen.crewSize > 1 && ` of ${counted(chosen.crewSize)}`}
            {chosen.skills.length > 0 && ` and ${chosen.skills.join(", ")}`}.
          </div>
          {chosen.awaitedPart && (
            <div className="small">
              {headline(waitsFor(chosen))}. <PartArrival visit={{ ...chosen, id: chosen.visitId }} />
            </div>
          )}
          <fieldset className={styles.parts}>
            <legend className="visually-hidden">When it suits</legend>
            {([undefined, "morning", "afternoon"] as const).map((part) => (
              <Button
                key={part ?? "any"}
                size="small"
                type={asked.part === part ? "primary" : "default"}
                aria-pressed={asked.part === part}
                onClick={() => setAsked({ ...asked, part })}
              >
                {part ?? "any time"}
              </Button>
            ))}
          </fieldset>
          <div className={styles.parts}>
            <Select
              size="small"
              aria-label="Who"
              placeholder="anybody"
              allowClear
              style={{ width: 150 }}
              value={asked.technicianId}
              options={people.map(({ personId, name }) => ({ value: personId, label: name }))}
              onChange={(technicianId?: number) => setAsked({ ...asked, technicianId })}
            />
            <Select
              size="small"
              aria-label="How many go"
              placeholder={counted(chosen.crewSize)}
              allowClear
              style={{ width: 108 }}
              value={asked.crewSize}
              options={CREWS}
              onChange={(crewSize?: number) => setAsked({ ...asked, crewSize })}
            />
            <Input
              size="small"
              aria-label="Not before"
              placeholder="not before, thu"
              style={{ width: 130 }}
              value={asked.from ?? ""}
              onChange={(event) => setAsked({ ...asked, from: event.target.value })}
            />
          </div>
          <TimesFound visitId={chosen.visitId} asked={wanted} keyed take={(found) => take(chosen, found)} />
        </section>
      )}
      <KeyedList
        label="Waiting for a time"
        className={styles.shelf}
        on={chosen && `waiting-${chosen.visitId}`}
        role={waiting.length > 0 ? "listbox" : "group"}
        move={(by) => choose(waiting[moved(index, by, waiting.length)]?.visitId)}
        enter={() => nth(0)}
        head={
          <>
            <div className={styles.shelfHead}>
              <Heading part>Waiting for a time</Heading>
              {waiting.length > 0 && (
                <span className="small soft">
                  {inAll > waiting.length ? `${waiting.length} of ${inAll}` : waiting.length}{" "}
                  {inAll === 1 ? "visit" : "visits"}, {hours(total)}
                </span>
              )}
            </div>
            <div className={styles.filters}>
              {all.length > 3 && <Filters all={all} filter={filter} set={setFilter} />}
              {planAll && waiting.length > 1 && (
                <Button size="small" className={styles.planAll} onClick={() => planAll(waiting)}>
                  Propose a plan
                </Button>
              )}
            </div>
          </>
        }
      >
        {waiting.length === 0 && (
          <p className="soft">{all.length > 0 ? "None of those that wait." : "Every visit has its time."}</p>
        )}
        {waiting.slice(0, shown).map((visit) => (
          <Waiting
            key={visit.visitId}
            visit={visit}
            on={visit === chosen}
            choose={() => choose(visit === chosen ? undefined : visit.visitId)}
            drag={drag && ((down) => drag(down, visit))}
          />
        ))}
      </KeyedList>
    </>
  );
}

/** How a visit stands to its part, if it waits for one. */
const partOf = ({ awaitedPart, partArrived }: WaitingVisit): string =>
  awaitedPart ? (partArrived ? "part arrived" : "part awaited") : "no part";

/** What the waiting visits have, to choose from. */
function Filters({
  all,
  filter,
  set,
}: {
  all: WaitingVisit[];
  filter: Filter;
  set: (filter: Filter) => void;
}) {
  const fields = [
    ["area", "every area", all.map((visit) => visit.area)],
    ["kindOfJob", "every kind", all.map((visit) => visit.kindOfJob)],
    ["skill", "every skill", all.flatMap((visit) => visit.skills)],
    ["part", "whatever part", all.map(partOf)],
  ] as const;
  return (
    <>
      {fields.map(([field, every, values]) => {
        const options = [...new Set(values)].filter(Boolean).sort();
        return (
          options.length > 1 && (
            <Select
              key={field}
              size="small"
              aria-label={`Of ${every}`}
              placeholder={every}
              allowClear
              popupMatchSelectWidth={false}
              value={filter[field]}
              options={options.map((value) => ({ value, label: value }))}
              onChange={(value?: string) => set({ ...filter, [field]: value })}
            />
          )
        );
      })}
    </>
  );
}

function Waiting({
  visit,
  on,
  choose,
  drag,
}: {
  visit: WaitingVisit;
  on: boolean;
  choose: () => void;
  drag?: (down: PointerEvent) => void;
}) {
  const element = useKeptInSight<HTMLDivElement>(on);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list has the keys
    // biome-ignore lint/a11y/useFocusableInteractive: the list has the focus
    <div
      ref={element}
      id={rowId(`waiting-${visit.visitId}`)}
      role="option"
      aria-selected={on}
      className={on ? `${styles.waiting} ${styles.on}` : styles.waiting}
      onClick={choose}
      onPointerDown={drag}
    >
      <span>
        <b>{visit.customer}</b>
        <span className="small">{visit.title}</span>
        {waitsFor(visit) && <span className="small soft">{waitsFor(visit)}</span>}
      </span>
      <span className={styles.when}>
        <span className={visit.late ? "small needs" : "small soft"}>{promised(visit) || visit.area}</span>
        <span className="small">
          {visit.crewSize > 1 && `${counted(visit.crewSize)}, `}
          {hours(visit.expectedMinutes)}
        </span>
      </span>
    </div>
  );
}
