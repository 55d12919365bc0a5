import type { AgreedRound, Agreement, DueDate } from "../api/generated/schema";
import { fullDay, money, weekday } from "../format";

/** What became of a day on which a round is due, in words. */
export function standing({ state, bookedOn, jobNumber, notThisTime, late }: DueDate): string {
  switch (state) {
    case "due":
      return late ? "late, no job yet" : "no job yet";
    case "to_book":
      return late ? "late, no time yet" : "no time yet";
    case "booked":
      return `booked ${weekday(bookedOn ?? "")}`;
    case "done":
      return "done";
    case "not_this_time":
      return `not this time: ${notThisTime}`;
    case "called_off":
      return `job ${jobNumber} was called off`;
  }
}

/** From when to when it was agreed. */
export const term = ({ from, until }: Pick<Agreement, "from" | "until">): string =>
  until ? `from ${fullDay(from)} to ${fullDay(until)}` : `from ${fullDay(from)} on`;

/** What the customer pays each time. */
export const priced = ({ priceMinor, withParts }: Pick<AgreedRound, "priceMinor" | "withParts">): string =>
  priceMinor == null
    ? "by time and parts"
    : `${money(priceMinor)} each time, ${withParts ? "parts included" : "parts beside it"}`;
