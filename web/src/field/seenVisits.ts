import { useCallback, useEffect, useState } from "react";
import { carriedAtOnce, carryAtOnce } from "../api/carry";
import type { PocketVisit } from "../api/generated/schema";
import { hours, openHours } from "../format";
import { useSession } from "../people/SessionGate";

/** What the office says of a visit, each by its name, in the words in which it is shown. */
const OF_THE_OFFICE = {
  Where: ({ site, address }) => [site, address],
  "Getting in": (visit) => [[openHours(visit), visit.accessNotes].filter(Boolean).join(". ")],
  "Ask for": ({ contactName, contactPhone }) => [contactName, contactPhone],
  Expected: ({ expectedMinutes }) => [hours(expectedMinutes)],
  "Comes along": ({ crew }) => crew.map(({ name }) => name),
  "To be done": ({ work }) => work.map(({ description }) => description),
  "Parts promised": ({ promised }) => [promised],
} satisfies Record<string, (visit: PocketVisit) => string[]>;

type Name = keyof typeof OF_THE_OFFICE;

const NAMES = Object.keys(OF_THE_OFFICE) as Name[];

/** What a customer agrees to on site adds to these. */
const PROMISE: Name[] = ["To be done", "Parts promised"];

/** What of a visit is not as it was when it was last seen; both in words, empty for nothing. */
export type VisitChange = { name: string; now: string; was: string };

type Said = Record<Name, string>;

/** What somebody has seen of their visits, and to which of them they added work themselves since. */
type Seen = { personId: number; visits: Record<number, Said>; addedTo: number[] };

const SEEN = "seen-visits";

/** Of so many visits, the latest, it is known what was seen. */
const MOST = 100;

function kept(personId: number): Seen {
  const seen = carriedAtOnce<Seen>(SEEN);
  return seen?.personId === personId ? seen : { personId, visits: {}, addedTo: [] };
}

function keep(seen: Seen): Seen {
  carryAtOnce(SEEN, seen);
  return seen;
}

const said = (visit: PocketVisit) =>
  Object.fromEntries(
    NAMES.map((name) => [name, OF_THE_OFFICE[name](visit).filter(Boolean).join(", ")]),
  ) as Said;

/** What the office changed of a visit since it was seen; nothing of a visit that is seen for the first time. */
function changes(seen: Seen, visit: PocketVisit): VisitChange[] {
  const before = seen.visits[visit.visitId];
  const now = said(visit);
  const own = seen.addedTo.includes(visit.visitId) ? PROMISE : [];
  return NAMES.filter((name) => before && before[name] !== now[name] && !own.includes(name)).map((name) => ({
    name,
    now: now[name],
    was: before?.[name] ?? "",
  }));
}

const isOver = ({ state }: PocketVisit) => state === "finished" || state === "checked";

/** Which of these visits the office changed since their technician saw them. */
export function useChangedVisits(visits: PocketVisit[]): Set<number> {
  const { person } = useSession();
  const seen = kept(person.id);
  const unseen = visits.filter(({ visitId }) => !seen.visits[visitId]);
  useEffect(() => {
    if (unseen.length > 0) {
      see(person.id, unseen);
    }
  });
  return new Set(
    visits.filter((visit) => !isOver(visit) && changes(seen, visit).length > 0).map(({ visitId }) => visitId),
  );
}

/** What the office changed of a visit since its technician said that they had seen it; and the word that they have. */
export function useVisitChanges(visit: PocketVisit): { changed: VisitChange[]; saw: () => void } {
  const { person } = useSession();
  const [, drawAnew] = useState<Seen>();
  // Read at each drawing: work that was added meanwhile is noted there, and not here.
  const changed = isOver(visit) ? [] : changes(kept(person.id), visit);
  const saw = useCallback(() => drawAnew(see(person.id, [visit])), [person.id, visit]);
  const nothingNew = changed.length === 0;
  useEffect(() => {
    if (nothingNew) {
      saw();
    }
  }, [nothingNew, saw]);
  return { changed, saw };
}

function see(personId: number, visits: PocketVisit[]): Seen {
  const before = kept(personId);
  const now: Record<number, Said> = Object.fromEntries(visits.map((visit) => [visit.visitId, said(visit)]));
  const isStill = (id: number) => PROMISE.every((name) => before.visits[id]?.[name] === now[id]?.[name]);
  return keep({
    ...before,
    visits: Object.fromEntries(Object.entries<Said>({ ...before.visits, ...now }).slice(-MOST)),
    addedTo: before.addedTo.filter((id) => !now[id] || isStill(id)),
  });
}

/** What a customer agreed to on site is no news to whoever offered it. */
export function noteAdded(personId: number, visitId: number): void {
  const seen = kept(personId);
  keep({ ...seen, addedTo: [...seen.addedTo, visitId] });
}
