import {
  type KeyboardEvent,
  memo,
  type PointerEvent,
  type RefObject,
  useMemo,
  useRef,
  useState,
} from "react";
import type { Block, PlannerDay, ProposedVisit, Ribbon, Stretch } from "../api/generated/schema";
import { hours as length, weekday } from "../format";
import { usePortions } from "../kit/usePortions";
import { drag, drawOut, type Held } from "./dragging";
import styles from "./Ribbons.module.css";
import { clock, drawn, hourly, minuteOf, placed, SNAP, share, ticks } from "./scale";
import { clashWords, NO_ROAD } from "./words";

/** The arrows that move a held visit: in quarter hours along its ribbon, or to the ribbon above or below. */
const MOVES: Record<string, { minutes?: number; people?: number }> = {
  ArrowLeft: { minutes: -SNAP },
  ArrowRight: { minutes: SNAP },
  ArrowUp: { people: -1 },
  ArrowDown: { people: 1 },
};

const NOTHING: ProposedVisit[] = [];

/** More ribbons than a screen shows at once. */
const IN_SIGHT = 15;

/**
 * Everybody's day to scale. A visit is chosen by a press; the space bar or a drag picks a planned one up, the arrows
 * or the pointer move it, the space bar or letting go puts it there, and Escape back. Where something speaks against a
 * time, it takes one press more.
 */
export function Ribbons({
  day,
  now,
  chosen,
  held,
  against,
  choose,
  open,
  hold,
  drop,
  away,
  relay,
  keep,
  proposed = NOTHING,
  low,
}: {
  day: PlannerDay;
  /** Jobs that keep less at their end than the company wants to. */
  low?: ReadonlySet<number>;
  /** The minute of this day that it is; nothing on any other day. */
  now?: number;
  /** Of the visit that is looked at. */
  chosen?: number;
  held?: Held;
  /** What speaks against where the held visit is. */
  against: string;
  choose: (block: Block, personId: number) => void;
  open: (block: Block) => void;
  hold: (held: Held | undefined) => void;
  drop: (held: Held) => void;
  /** Says that somebody is away; nothing for whoever may not. */
  away?: (ribbon: Ribbon) => void;
  /** Lays the day of somebody who is away on the others. */
  relay?: (ribbon: Ribbon) => void;
  /** Holds a time that was dragged out; nothing for whoever may not. */
  keep?: (personId: number, at: Stretch) => void;
  /** What a proposed plan would add to this day. */
  proposed?: ProposedVisit[];
}) {
  const [drawnOut, setDrawnOut] = useState<{ personId: number; at: Stretch }>();
  const hours = useMemo(() => drawn(day), [day]);
  const shown = usePortions(day.ribbons.length, IN_SIGHT);
  const field = useRef<HTMLDivElement>(null);
  const people = day.ribbons.map((ribbon) => ribbon.personId);

  const move = (moved: Held, { minutes = 0, people: by = 0 }: { minutes?: number; people?: number }) => {
    const at = people.indexOf(moved.to.personId) + by;
    hold({
      ...moved,
      asked: undefined,
      to: {
        personId: people[Math.max(0, Math.min(at, people.length - 1))] ?? moved.to.personId,
        from: snapped(moved.to.from, minutes),
      },
    });
  };

  const press = (event: KeyboardEvent, block: Block, personId: number) => {
    if (event.ctrlKey || event.metaKey || event.altKey) {
      return;
    }
    const arrow = MOVES[event.key];
    if (held) {
      if (arrow) {
        move(held, arrow);
      } else if (event.key === " " || event.key === "Enter") {
        drop(held);
      } else if (event.key === "Escape") {
        hold(undefined);
      } else {
        return;
      }
    } else if (event.key === " ") {
      if (movable(block)) {
        hold(picked(block, personId));
      }
    } else if (event.key === "Enter") {
      open(block);
    } else if (arrow) {
      neighbour(event.currentTarget as HTMLElement, arrow)?.focus();
    } else {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  };

  const acts = useRef<Acts>(null as never);
  acts.current = {
    press,
    choose,
    away,
    relay,
    drag: (event, block, personId) =>
      movable(block) && drag(event, field.current, hours, picked(block, personId), hold, drop),
    drawOut: (event, personId) =>
      keep &&
      drawOut(
        event,
        hours,
        (at) => setDrawnOut(at && { personId, at }),
        (at) => keep(personId, at),
      ),
  };

  return (
    <div className={styles.field} ref={field}>
      <div className={styles.axis} data-axis aria-hidden="true">
        {ticks(hours).map((tick) => (
          <span key={tick} style={{ left: `${share(tick, hours)}%` }}>
            {clock(tick)}
          </span>
        ))}
      </div>
      {day.ribbons.slice(0, shown).map((ribbon) => {
        const its = (visitId: number | undefined) =>
          ribbon.blocks.some((block) => block.visitId === visitId) ? visitId : undefined;
        const over = held?.to.personId === ribbon.personId ? held : undefined;
        return (
          <RibbonSection
            key={ribbon.personId}
            ribbon={ribbon}
            day={day.day}
            hours={hours}
            now={now}
            chosen={its(chosen)}
            lifted={its(held?.visit.visitId)}
            over={over}
            against={over ? against : ""}
            drawnOut={drawnOut?.personId === ribbon.personId ? drawnOut.at : undefined}
            proposed={proposed}
            low={low}
            mayPlan={keep !== undefined}
            acts={acts}
          />
        );
      })}
    </div>
  );
}

/** What is done to the visits of a ribbon, as it is at the time. */
type Acts = {
  press: (event: KeyboardEvent, block: Block, personId: number) => void;
  choose: (block: Block, personId: number) => void;
  drag: (event: PointerEvent, block: Block, personId: number) => void;
  drawOut: (event: PointerEvent<HTMLElement>, personId: number) => void;
  away?: (ribbon: Ribbon) => void;
  relay?: (ribbon: Ribbon) => void;
};

/** One person's day; drawn again only where something of it changed, for a day may have many. */
const RibbonSection = memo(function RibbonSection({
  ribbon,
  day,
  hours,
  now,
  chosen,
  lifted,
  over,
  against,
  drawnOut,
  proposed,
  low,
  mayPlan,
  acts,
}: {
  ribbon: Ribbon;
  low?: ReadonlySet<number>;
  day: string;
  hours: Stretch;
  now?: number;
  /** Of the visit of this ribbon that is looked at. */
  chosen?: number;
  /** Of the visit of this ribbon that is held. */
  lifted?: number;
  /** A visit that is held over this ribbon. */
  over?: Held;
  against: string;
  drawnOut?: Stretch;
  proposed: ProposedVisit[];
  mayPlan: boolean;
  acts: RefObject<Acts>;
}) {
  return (
    <section className={styles.ribbon} data-ribbon={ribbon.personId} aria-label={`${ribbon.name}’s day`}>
      <Person
        ribbon={ribbon}
        away={mayPlan ? (of) => acts.current.away?.(of) : undefined}
        relay={mayPlan ? (of) => acts.current.relay?.(of) : undefined}
      />
      <div
        className={styles.line}
        style={hourly(hours)}
        onPointerDown={(event) => acts.current.drawOut(event, ribbon.personId)}
      >
        {ribbon.working.map((part) => (
          <i key={part.from} className={styles.working} style={placed(part, hours)} />
        ))}
        {ribbon.away.map((absence) => (
          <span
            key={absence.absenceId}
            className={styles.away}
            style={placed(within(absence.at, hours), hours)}
          >
            {absence.note || absence.kind}
            {absence.lastDay > day && ` until ${weekday(absence.lastDay)}`}
          </span>
        ))}
        {ribbon.held.map((held) => (
          <span key={held.holdId} className={styles.hold} style={placed(held.at, hours)}>
            held{held.mine ? "" : ` by ${held.by}`}
          </span>
        ))}
        {drawnOut && (
          <span className={styles.hold} style={placed(drawnOut, hours)}>
            {clock(drawnOut.from)} to {clock(drawnOut.to)}
          </span>
        )}
        {proposed
          .filter(
            (visit) =>
              visit.day === day &&
              [visit.personId, ...visit.companions.map(({ id }) => id)].includes(ribbon.personId),
          )
          .map((visit) => (
            <span
              key={visit.visitId}
              className={styles.proposed}
              style={placed(
                {
                  from: minuteOf(`${visit.day}T${visit.start}`),
                  to: minuteOf(`${visit.day}T${visit.start}`) + visit.expectedMinutes,
                },
                hours,
              )}
            >
              <b>{visit.customer}</b>
              <span>{visit.title}</span>
            </span>
          ))}
        {ribbon.drives.map((drive) => (
          <span
            key={drive.from}
            className={drive.lateMinutes > 0 ? `${styles.drive} ${styles.late}` : styles.drive}
            style={placed({ from: drive.from, to: drive.from + drive.minutes }, hours)}
            data-minutes={drive.minutes}
            title={`${drive.guessed ? "about " : ""}${drive.minutes} min, ${drive.miles} miles${drive.noRoad ? `, ${NO_ROAD}` : ""}`}
          />
        ))}
        {ribbon.blocks.map((block, index) => (
          <BlockButton
            key={block.visitId}
            block={block}
            low={low?.has(block.jobId) ?? false}
            hours={hours}
            now={now}
            chosen={block.visitId === chosen}
            lifted={block.visitId === lifted}
            covered={(ribbon.blocks[index + 1]?.at.from ?? hours.to) < block.at.to}
            press={(event) => acts.current.press(event, block, ribbon.personId)}
            choose={() => acts.current.choose(block, ribbon.personId)}
            drag={(event) => acts.current.drag(event, block, ribbon.personId)}
          />
        ))}
        {over && (
          <span
            className={against ? `${styles.held} ${styles.wanting}` : styles.held}
            style={placed({ from: over.to.from, to: over.to.from + over.visit.minutes }, hours)}
          >
            <b>
              {clock(over.to.from)} {over.visit.customer}
            </b>
            <span>{against || "free"}</span>
          </span>
        )}
        {now !== undefined && now >= hours.from && now <= hours.to && (
          <i className={styles.now} style={{ left: `${share(now, hours)}%` }} />
        )}
      </div>
    </section>
  );
});

/** Moved to the next quarter hour that way. */
function snapped(from: number, by: number): number {
  const quarters = (from + by) / SNAP;
  const moved = by === 0 ? from : (by > 0 ? Math.floor(quarters) : Math.ceil(quarters)) * SNAP;
  return Math.max(0, Math.min(moved, 24 * 60 - SNAP));
}

/** Whether the planner may move it: nobody has begun, and it is this person's to do. */
const movable = (block: Block): boolean => block.state === "planned" && block.responsible;

const picked = (block: Block, personId: number): Held => ({
  visit: { ...block, minutes: block.at.to - block.at.from },
  origin: { personId, from: block.at.from },
  to: { personId, from: block.at.from },
});

const within = (at: Stretch, hours: Stretch): Stretch => ({
  from: Math.max(at.from, hours.from),
  to: Math.min(at.to, hours.to),
});

/** The visit beside one on its ribbon, or the nearest one in time on the next ribbon that has any. */
function neighbour(block: HTMLElement, { minutes, people = 0 }: { minutes?: number; people?: number }) {
  const ribbon = block.closest("section");
  const own = [...(ribbon?.querySelectorAll<HTMLElement>("[data-visit]") ?? [])];
  if (minutes) {
    return own[own.indexOf(block) + Math.sign(minutes)];
  }
  let next = ribbon;
  do {
    next = (people > 0 ? next?.nextElementSibling : next?.previousElementSibling) as HTMLElement | null;
  } while (next && !next.querySelector("[data-visit]"));
  const left = block.getBoundingClientRect().left;
  const far = (other: HTMLElement) => Math.abs(other.getBoundingClientRect().left - left);
  return [...(next?.querySelectorAll<HTMLElement>("[data-visit]") ?? [])].sort((a, b) => far(a) - far(b))[0];
}

function Person({
  ribbon,
  away,
  relay,
}: {
  ribbon: Ribbon;
  away?: (ribbon: Ribbon) => void;
  relay?: (ribbon: Ribbon) => void;
}) {
  const missed = ribbon.blocks.filter((block) => block.clashes.includes("absent"));
  return (
    <div className={styles.person}>
      <b>{ribbon.name}</b>
      <span className="small soft">
        {ribbon.blocks.length === 0
          ? ribbon.working.length === 0
            ? "does not work"
            : "nothing planned"
          : `${length(ribbon.drivingMinutes)} driving`}
      </span>
      {away && (
        <button
          type="button"
          className="plain small"
          aria-label={`${ribbon.name} is away`}
          onClick={() => away(ribbon)}
        >
          away…
        </button>
      )}
      {relay && missed.length > 0 && (
        <button
          type="button"
          className={`plain small ${styles.relay}`}
          aria-label={`Lay ${ribbon.name}’s day on the others`}
          onClick={() => relay(ribbon)}
        >
          lay {missed.length} on the others…
        </button>
      )}
    </div>
  );
}

function BlockButton({
  block,
  low,
  hours,
  now,
  chosen,
  lifted,
  covered,
  press,
  choose,
  drag,
}: {
  block: Block;
  low: boolean;
  hours: Stretch;
  now?: number;
  chosen: boolean;
  /** It is held, and would be elsewhere. */
  lifted: boolean;
  /** The next visit begins before it ends, and says so for both. */
  covered: boolean;
  press: (event: KeyboardEvent) => void;
  choose: () => void;
  drag: (event: PointerEvent) => void;
}) {
  const against = clashWords(block.clashes);
  const running = block.state === "driving" || block.state === "on_site";
  const over = block.state === "finished" || block.state === "checked";
  const done = running && now !== undefined ? share(now, block.at) : 0;
  const look = [
    styles.block,
    over && styles.over,
    against && styles.wanting,
    low && styles.low,
    chosen && styles.chosen,
    lifted && styles.lifted,
    !block.responsible && styles.along,
  ];
  return (
    <button
      type="button"
      id={block.responsible ? `visit-${block.visitId}` : undefined}
      data-visit={block.visitId}
      className={look.filter(Boolean).join(" ")}
      style={placed(block.at, hours)}
      aria-pressed={chosen}
      aria-label={[
        `${clock(block.at.from)} to ${clock(block.at.to)} ${block.customer}, ${block.title}`,
        block.state.replaceAll("_", " "),
        against,
        low && "its job keeps less than our floor",
      ]
        .filter(Boolean)
        .join(", ")}
      onKeyDown={press}
      onClick={choose}
      onPointerDown={drag}
    >
      {running && <i className={styles.progress} style={{ width: `${Math.max(4, Math.min(done, 100))}%` }} />}
      <b>{block.customer}</b>
      <span>{block.responsible ? block.title : `comes along: ${block.title}`}</span>
      {(against || low) && !covered && <em>{[against, low && "below floor"].filter(Boolean).join(", ")}</em>}
    </button>
  );
}
