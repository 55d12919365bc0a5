import { useCallback, useEffect, useState } from "react";
import { carriedAtOnce, carryAtOnce } from "../api/carry";
import type { Day, Stop } from "../api/generated/schema";
import { useSession } from "../people/SessionGate";

/** A stop that is not as it was when its technician last looked: new, moved from where it was, or gone. */
export type StopChange = { stop: Stop; was?: Stop; gone: boolean };

/** What a technician has seen of their plan, and which of it they gave back themselves. */
type Seen = { personId: number; stops: Stop[]; until: string; handedBack: number[] };

const SEEN = "seen-stops";

const planned = (day: Day): Stop[] => [...day.stops, ...day.later];

/** The last day that is read, as far as it has stops. */
const until = (day: Day): string => day.later.at(-1)?.day ?? day.day;

const isMoved = (stop: Stop, was: Stop): boolean => stop.day !== was.day || stop.start !== was.start;

/** What differs between a plan that was seen and the one that is read now, in the order of the day. */
function changes(seen: Seen, now: Day): StopChange[] {
  const stops = planned(now);
  const before = new Map(seen.stops.map((stop) => [stop.visitId, stop]));
  const still = new Set(stops.map(({ visitId }) => visitId));
  const come = stops.flatMap((stop): StopChange[] => {
    const was = before.get(stop.visitId);
    if (seen.handedBack.includes(stop.visitId)) {
      return [];
    }
    if (was) {
      return isMoved(stop, was) ? [{ stop, was, gone: false }] : [];
    }
    return stop.day <= seen.until ? [{ stop, gone: false }] : [];
  });
  const gone = seen.stops
    .filter(({ visitId, day }) => day >= now.day && !still.has(visitId) && !seen.handedBack.includes(visitId))
    .map((stop): StopChange => ({ stop, gone: true }));
  const when = ({ stop }: StopChange) => stop.day + stop.start;
  return [...come, ...gone].sort((a, b) => when(a).localeCompare(when(b)));
}

function keep(seen: Seen): Seen {
  carryAtOnce(SEEN, seen);
  return seen;
}

function kept(personId: number): Seen | undefined {
  const seen = carriedAtOnce<Seen>(SEEN);
  return seen?.personId === personId ? seen : undefined;
}

/**
 * What the office changed of a technician's plan since they said that they had seen it, on this phone and over days
 * without a network; and the word that they have.
 */
export function useChangedStops(now: Day | undefined): { changed: StopChange[]; saw: () => void } {
  const { person } = useSession();
  const [seen, setSeen] = useState(() => kept(person.id));
  const changed = now && seen ? changes(seen, now) : [];
  const saw = useCallback(() => {
    if (now) {
      setSeen((before) =>
        keep({
          personId: person.id,
          stops: planned(now),
          until: until(now),
          handedBack:
            before?.handedBack.filter((id) => planned(now).some((stop) => stop.visitId === id)) ?? [],
        }),
      );
    }
  }, [now, person.id]);
  const nothingNew = changed.length === 0;
  useEffect(() => {
    if (nothingNew) {
      saw();
    }
  }, [nothingNew, saw]);
  return { changed, saw };
}

/** What somebody hands back themselves is no news to them. */
export function noteHandedBack(personId: number, visitId: number): void {
  const seen = kept(personId);
  if (seen) {
    keep({ ...seen, handedBack: [...seen.handedBack, visitId] });
  }
}
