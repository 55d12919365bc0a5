import type { Block, TimeFound, WaitingVisit } from "../api/generated/schema";
import { hours, moment, time, weekday } from "../format";

export type Clash = Block["clashes"][number];

/** What speaks against a time, as it is read on the ribbon. */
export const CLASHES: Record<Clash, string> = {
  overlap: "two visits at once",
  absent: "away then",
  held: "held for another customer",
  too_early: "before what it waits for",
  outside_hours: "outside working hours",
  site_closed: "the site is closed",
  skill_missing: "lacks what is needed",
  out_of_area: "does not go there",
  crew_too_small: "too few for it",
  drive_does_not_fit: "no time to drive",
  after_respond_by: "later than promised",
  window_broken: "not as the customer was told",
};

/** "two visits at once, away then"; nothing when nothing speaks against it. */
export const clashWords = (clashes: Clash[]): string => clashes.map((clash) => CLASHES[clash]).join(", ");

/** What a refused plan was refused for; nothing where it was for something else. */
export const clashesOf = (faults: { pointer: string; rule: string }[]): Clash[] =>
  faults.every(({ pointer }) => pointer === "/overruled")
    ? faults.map(({ rule }) => rule.toLowerCase() as Clash)
    : [];

/** Of a drive to where no road leads. */
export const NO_ROAD = "no road to it is known, reckoned in a straight line";

/** Why a time is good, or how late it is: "12 min from Quillon Bakery, adds 4 min of driving". */
export function reasons(found: TimeFound): string {
  const drive =
    found.driveMinutes === 0
      ? "no drive before it"
      : `${found.guessed ? "about " : ""}${found.driveMinutes} min from ${found.afterCustomer ?? "home"}`;
  const added = found.addedMinutes > 0 ? `adds ${found.addedMinutes} min of driving` : "on the way";
  const skills = found.skills.length > 0 ? `has ${found.skills.join(" and ")}` : undefined;
  const covers = found.district && `covers ${found.district}`;
  const closes = found.closes && `ends before it closes at ${time(found.closes)}`;
  return [drive, found.noRoad && NO_ROAD, added, skills, covers, closes].filter(Boolean).join(", ");
}

/** What is known of a time that was found, and put up with by whoever takes it. */
export const known = (found: TimeFound): Clash[] => [
  ...(found.lateMinutes > 0 ? (["after_respond_by"] as const) : []),
  ...(found.notAsTold ? (["window_broken"] as const) : []),
];

/** "Imre Vasko with Dilys Marrant"; the name alone for somebody who goes alone. */
export const crew = ({ person, companions }: { person: string; companions: { name: string }[] }): string =>
  companions.length > 0 ? `${person} with ${companions.map(({ name }) => name).join(" and ")}` : person;

/** "Tue 24 Nov 10:15, Imre Vasko". */
export const offered = (found: TimeFound): string =>
  `${weekday(found.day)} ${time(found.start)}, ${crew(found)}`;

/** How late a time is against what was promised: "3:20 after the promise". */
export const lateness = (minutes: number): string => `${hours(minutes)} after the promise`;

/** Whatever waits for something of which nobody knows the day waits for a day of that far year. */
const NOT_YET = "2999";

/** How a visit stands to its part: "waits for ram"; nothing for one that waits for none. */
export const partWords = ({
  awaitedPart,
  partArrived,
}: {
  awaitedPart: string;
  partArrived: boolean;
}): string => awaitedPart && (partArrived ? `${awaitedPart} has arrived` : `waits for ${awaitedPart}`);

/** What a visit waits for: "waits for ram, not before Wed 2 Dec"; nothing when it may be at any time. */
export function waitsFor({ notBefore, awaitedPart, partArrived }: WaitingVisit): string {
  const unknown = notBefore?.startsWith(NOT_YET);
  const part = partWords({ awaitedPart, partArrived });
  const other = unknown && (!awaitedPart || partArrived) && "after a visit that waits itself";
  const day =
    notBefore &&
    !unknown &&
    `not before ${notBefore.endsWith("T00:00:00") ? weekday(notBefore.slice(0, 10)) : moment(notBefore)}`;
  return [part, other, day].filter(Boolean).join(", ");
}

/** By when somebody was promised, or that it is late already. */
export const promised = (visit: WaitingVisit): string =>
  visit.respondBy ? `${visit.late ? "late since" : "by"} ${moment(visit.respondBy)}` : "";
