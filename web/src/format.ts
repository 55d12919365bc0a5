/** Turns the server's figures into text; nothing here computes money. */

const formats = (locale: string) => ({
  amount: new Intl.NumberFormat(locale, { minimumFractionDigits: 2, maximumFractionDigits: 2 }),
  unit: new Intl.NumberFormat(locale, { minimumFractionDigits: 2, maximumFractionDigits: 4 }),
  whole: new Intl.NumberFormat(locale, { maximumFractionDigits: 0 }),
  shortDay: new Intl.DateTimeFormat(locale, { day: "numeric", month: "short" }),
  wholeMonth: new Intl.DateTimeFormat(locale, { month: "long", year: "numeric" }),
  longDay: new Intl.DateTimeFormat(locale, { weekday: "short", day: "numeric", month: "short" }),
});

// The browser's own way until the page knows the company's.
let written = formats(navigator.language);

// Nothing until the page knows the company's.
let mark = "";

/** From now on everything is written as the company writes it, such as "en-GB", its money in such as "GBP". */
export const writeAs = (locale: string, currency: string): void => {
  written = formats(locale);
  mark =
    new Intl.NumberFormat(locale, { style: "currency", currency, currencyDisplay: "narrowSymbol" })
      .formatToParts(0)
      .find((part) => part.type === "currency")?.value ?? currency;
};

/** The sign of the company's currency, for the head of a column: "£". */
export const currencyMark = (): string => mark;

/** Minor units as "1,284.00"; nothing as a dash where a column asks for it. */
export const money = (minor: number): string => written.amount.format(minor / 100).replace("-", "−");

export const moneyOrDash = (minor: number): string => (minor === 0 ? "–" : money(minor));

/** The price of a unit with two decimals, or up to four where they are needed: "2.565". */
export const unitPrice = (price: number): string => written.unit.format(price);

/** Minor units without pence, for the Money line. */
export const roundMoney = (minor: number): string => written.whole.format(minor / 100).replace("-", "−");

/** "21.65 %"; a dash where nothing is charged and there is no share. */
export const percent = (value: number | null | undefined, digits = 2): string =>
  value == null
    ? "–"
    : `${value
        .toFixed(digits)
        .replace(/^-(?=0(\.0+)?$)/, "")
        .replace("-", "−")} %`;

/** A day such as "2026-11-24" as "24 Nov". */
export const day = (iso: string): string => written.shortDay.format(new Date(`${iso}T12:00:00`));

/** A day such as "2026-11-24" as "Tue 24 Nov". */
export const weekday = (iso: string): string =>
  written.longDay.format(new Date(`${iso}T12:00:00`)).replace(",", "");

/** A month such as "2026-11" as "November 2026". */
export const monthName = (iso: string): string => written.wholeMonth.format(new Date(`${iso}-15T12:00:00`));

/** A time such as "15:00:00" as "15:00". */
export const time = (iso: string): string => iso.slice(0, 5);

/** A time with how many days after the visit's day it lies, if any: "01:30 +1". */
export const timeOf = (iso: string, daysLater: number): string =>
  daysLater > 0 ? `${time(iso)} +${daysLater}` : time(iso);

/** At which hours somebody can get in: "Open 08:00 to 15:30"; nothing where that is at all. */
export const openHours = ({ opens, closes }: { opens?: string | null; closes?: string | null }): string =>
  opens && closes ? `Open ${time(opens)} to ${time(closes)}` : "";

/** Minutes as "2:35", also "−0:30". */
export const hours = (minutes: number): string =>
  minutes < 0
    ? `−${hours(-minutes)}`
    : `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;

/** A stored state such as "not_this_time" in words. */
export const words = (state: string): string => state.replaceAll("_", " ").replace(/\bvat\b/, "VAT");

/** A code at the head of something: "part_used" as "Part used". */
export const headline = (code: string): string => code.charAt(0).toUpperCase() + words(code.slice(1));

/** A moment such as "2026-11-26T08:41:40" as "Thu 26 Nov 08:41". */
export const moment = (iso: string): string => `${weekday(iso.slice(0, 10))} ${iso.slice(11, 16)}`;

/** Minutes left as "3:20 left", or as "1:10 late". */
export const timeLeft = (minutes: number): string =>
  minutes < 0 ? `${hours(-minutes)} late` : `${hours(minutes)} left`;

/** A day such as "2026-11-24" as "24 Nov 2026". */
export const fullDay = (iso: string): string => `${day(iso)} ${iso.slice(0, 4)}`;
