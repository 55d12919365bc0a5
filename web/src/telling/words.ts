import type { ArrivalWindow, CustomersVisits, ToldMessage } from "../api/generated/schema";
import { time } from "../format";

/** Between when somebody arrives, as it is read out: "between 10:00 and 11:00". */
export const between = (window: ArrivalWindow): string =>
  `between ${time(window.from)} and ${time(window.to)}`;

/** What a customer was told. */
export const TOLD: Record<ToldMessage["kind"], string> = {
  confirmed: "confirmed",
  changed: "change told",
  called_off: "told that it is off",
  reminded: "reminded",
  on_the_way: "told that somebody is on the way",
  late: "told that it gets later",
};

/** How somebody is told. */
export const TOLD_BY: Record<ToldMessage["toldBy"], string> = {
  nobody: "not at all",
  mail: "by mail",
  text: "by text message",
};

/** What somebody gets of each visit that is over. */
export const REPORT_COPY: Record<CustomersVisits["reportCopy"], string> = {
  none: "nothing",
  without_prices: "a report without prices",
  with_prices: "a report with prices",
};
