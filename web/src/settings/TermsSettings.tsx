import { useQuery } from "@tanstack/react-query";
import { answer, client } from "../api/client";
import type { Charges, ClassRate, Costs, Hours, MarkupBands, Pay, RatesOfDay } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark, headline, hours, unitPrice, words } from "../format";
import { type RecordField, RecordForm, type Values } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { Dated } from "./Dated";

type Kind = "working-hours" | "pay" | "rates" | "charges" | "costs" | "markup";

const FROM: RecordField = {
  name: "fromDay",
  label: "Holds from",
  half: true,
  needed: true,
  hint: "today, mon, 1 jan",
};

function useTerms(kind: Kind) {
  const { data, error } = useQuery(queries.enteredTerms);
  const version = data?.version ?? 0;
  const withdraw = useAct(
    (fromDay: string) =>
      answer(
        client.DELETE("/api/settings/terms/{kind}/{fromDay}", {
          params: { path: { kind, fromDay }, query: { version } },
        }),
      ),
    { said: "Taken back. What holds now goes on." },
  );
  return { data, error, version, withdraw: (terms: { fromDay: string }) => withdraw.run(terms.fromDay) };
}

const text = (values: Values, name: string): string => String(values[name] ?? "");

/** When an hour is normal, overtime or night. */
export function WorkingHoursSettings() {
  const { data, error, version, withdraw } = useTerms("working-hours");
  return (
    <Dated
      name="Working hours"
      about="What is neither normal nor night is overtime. Promised times are counted in normal hours."
      terms={data?.workingHours}
      error={error}
      withdraw={withdraw}
      columns={["Days", "Normal", "Night", "Holidays"]}
      cells={(terms: Hours) => [
        weekdays(terms.normalDays),
        `${short(terms.normalFrom)} to ${short(terms.normalTo)}`,
        `${short(terms.nightFrom)} to ${short(terms.nightTo)}`,
        words(terms.onHolidays),
      ]}
      form={(now, close) => <HoursForm now={now} version={version} close={close} />}
    />
  );
}

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

const weekdays = (days: number[]): string => days.map((one) => DAYS[one - 1]?.slice(0, 3)).join(" ");

const short = (time: string): string => time.slice(0, 5);

const HOURS_FIELDS: RecordField[] = [
  FROM,
  {
    name: "onHolidays",
    label: "Hours of a holiday are",
    kind: "choice",
    half: true,
    needed: true,
    options: (["normal", "overtime", "night"] as const).map((value) => ({ value, label: words(value) })),
  },
  { name: "normalFrom", label: "Normal hours begin", half: true, needed: true, hint: "7:00" },
  { name: "normalTo", label: "Normal hours end", half: true, needed: true, hint: "17:30" },
  { name: "nightFrom", label: "The night begins", half: true, needed: true, hint: "22:00" },
  { name: "nightTo", label: "The night ends", half: true, needed: true, hint: "6:00" },
  ...DAYS.map((label): RecordField => ({ name: label, label, kind: "tick", half: true })),
];

function HoursForm({ now, version, close }: { now: Hours; version: number; close: () => void }) {
  return (
    <RecordForm
      title="Other working hours"
      confirm="Keep working hours"
      fields={HOURS_FIELDS}
      initial={{
        fromDay: "today",
        onHolidays: now.onHolidays,
        normalFrom: short(now.normalFrom),
        normalTo: short(now.normalTo),
        nightFrom: short(now.nightFrom),
        nightTo: short(now.nightTo),
        ...Object.fromEntries(DAYS.map((label, index) => [label, now.normalDays.includes(index + 1)])),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/working-hours", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              normalDays: DAYS.flatMap((label, index) => (values[label] ? [index + 1] : [])),
              normalFrom: text(values, "normalFrom"),
              normalTo: text(values, "normalTo"),
              nightFrom: text(values, "nightFrom"),
              nightTo: text(values, "nightTo"),
              onHolidays: values.onHolidays as Hours["onHolidays"],
            },
          }),
        )
      }
      close={close}
    />
  );
}

/** How time is paid. */
export function PaySettings() {
  const { data, error, version, withdraw } = useTerms("pay");
  return (
    <Dated
      name="Pay"
      about="Nobody chooses how an hour is paid: it follows from the clocks. What an hour costs a job goes by the working hours alone."
      terms={data?.pay}
      error={error}
      withdraw={withdraw}
      columns={["Normal", "Weekend is", "Breaks", "Rounded to", "Overtime", "Night", "Weekend", "Holiday"]}
      cells={(terms: Pay) => [
        limits(terms),
        weekdays(terms.weekend) || "no day",
        terms.breaksPaid ? "paid" : "not paid",
        `${terms.roundingMinutes} min`,
        `${terms.overtimePercent} %`,
        `${terms.nightPercent} %`,
        `${terms.weekendPercent} %`,
        `${terms.holidayPercent} %`,
      ]}
      form={(now, close) => <PayForm now={now} version={version} close={close} />}
    />
  );
}

const limits = ({ dailyMinutes, weeklyMinutes }: Pay): string =>
  [
    dailyMinutes != null && `${hours(dailyMinutes)} a day`,
    weeklyMinutes != null && `${hours(weeklyMinutes)} a week`,
  ]
    .filter(Boolean)
    .join(", ") || "without limit";

const PERCENTS = ["overtimePercent", "nightPercent", "weekendPercent", "holidayPercent"] as const;

const PAY_FIELDS: RecordField[] = [
  FROM,
  { name: "roundingMinutes", label: "A day is rounded to, minutes", half: true, needed: true },
  { name: "daily", label: "Overtime after, a day", half: true, hint: "8, 7:30, or nothing" },
  { name: "weekly", label: "Overtime after, a week", half: true, hint: "40, or nothing" },
  ...PERCENTS.map(
    (name): RecordField => ({
      name,
      label: `${headline(name.replace("Percent", ""))}, % of the wage`,
      half: true,
      needed: true,
    }),
  ),
  ...DAYS.map(
    (label): RecordField => ({ name: label, label: `${label} is weekend`, kind: "tick", half: true }),
  ),
  { name: "breaksPaid", label: "Breaks are paid", kind: "tick", half: true },
];

const typed = (minutes: number | null | undefined): string => (minutes == null ? "" : hours(minutes));

function PayForm({ now, version, close }: { now: Pay; version: number; close: () => void }) {
  return (
    <RecordForm
      title="Other pay"
      confirm="Keep pay"
      fields={PAY_FIELDS}
      initial={{
        fromDay: "today",
        daily: typed(now.dailyMinutes),
        weekly: typed(now.weeklyMinutes),
        roundingMinutes: String(now.roundingMinutes),
        breaksPaid: now.breaksPaid,
        ...Object.fromEntries(PERCENTS.map((name) => [name, String(now[name])])),
        ...Object.fromEntries(DAYS.map((label, index) => [label, now.weekend.includes(index + 1)])),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/pay", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              daily: text(values, "daily"),
              weekly: text(values, "weekly"),
              weekend: DAYS.flatMap((label, index) => (values[label] ? [index + 1] : [])),
              breaksPaid: values.breaksPaid === true,
              roundingMinutes: text(values, "roundingMinutes"),
              overtimePercent: text(values, "overtimePercent"),
              nightPercent: text(values, "nightPercent"),
              weekendPercent: text(values, "weekendPercent"),
              holidayPercent: text(values, "holidayPercent"),
            },
          }),
        )
      }
      close={close}
    />
  );
}

/** What an hour is charged at, by its class. */
export function RateSettings() {
  const { data, error, version, withdraw } = useTerms("rates");
  return (
    <Dated
      name="Hourly rates"
      about="What an hour is charged at, and what it costs in percent of the wage with its on-costs. Wages stand with the people."
      terms={data?.rates}
      error={error}
      withdraw={withdraw}
      columns={(data?.rates[0]?.classes ?? []).map((rate) => `${words(rate.rateClass)}, ${currencyMark()}`)}
      cells={(terms: RatesOfDay) =>
        terms.classes.map((rate) => (
          <span key={rate.rateClass}>
            {unitPrice(rate.chargePerHour)} <span className="soft small">cost {rate.costPercent} %</span>
          </span>
        ))
      }
      form={(now, close) => <RatesForm now={now} version={version} close={close} />}
    />
  );
}

function RatesForm({ now, version, close }: { now: RatesOfDay; version: number; close: () => void }) {
  return (
    <RecordForm
      title="Other hourly rates"
      confirm="Keep rates"
      fields={[
        { ...FROM, half: false },
        ...now.classes.flatMap((rate, index): RecordField[] => [
          {
            name: `classes/${index}/chargePerHour`,
            label: `${words(rate.rateClass)}: charged per hour`,
            half: true,
            needed: true,
          },
          {
            name: `classes/${index}/costPercent`,
            label: `${words(rate.rateClass)}: cost, % of the wage`,
            half: true,
            needed: true,
          },
        ]),
      ]}
      initial={{
        fromDay: "today",
        ...Object.fromEntries(
          now.classes.flatMap((rate, index) => [
            [`classes/${index}/chargePerHour`, String(rate.chargePerHour)],
            [`classes/${index}/costPercent`, String(rate.costPercent)],
          ]),
        ),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/rates", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              classes: now.classes.map((rate: ClassRate, index) => ({
                rateClass: rate.rateClass,
                chargePerHour: text(values, `classes/${index}/chargePerHour`),
                costPercent: text(values, `classes/${index}/costPercent`),
              })),
            },
          }),
        )
      }
      close={close}
    />
  );
}

const DRIVE = {
  per_call_out: "a call-out",
  per_hour: "an hour",
  per_mile: "a mile",
  none: "not charged",
} as const;

/** How time, driving and suppliers' bills are charged. */
export function ChargeSettings() {
  const { data, error, version, withdraw } = useTerms("charges");
  return (
    <Dated
      name="Charging"
      about="Labour is rounded up to whole steps for each visit and class. Each customer can have another term of payment."
      terms={data?.charges}
      error={error}
      withdraw={withdraw}
      columns={["Step", "At least", "Driving", "On suppliers' bills", "Pay within"]}
      cells={(terms: Charges) => [
        `${terms.stepMinutes} min`,
        hours(terms.minimumMinutes),
        terms.driveCharge === "none"
          ? DRIVE.none
          : `${unitPrice(terms.driveChargePrice)} ${DRIVE[terms.driveCharge]}`,
        `+ ${terms.otherMarkupPercent} %`,
        `${terms.paymentDays} days`,
      ]}
      form={(now, close) => <ChargesForm now={now} version={version} close={close} />}
    />
  );
}

const CHARGE_FIELDS: RecordField[] = [
  FROM,
  { name: "paymentDays", label: "Customers pay within, days", half: true, needed: true },
  { name: "stepMinutes", label: "Labour is charged in steps of, minutes", half: true, needed: true },
  { name: "minimumMinutes", label: "At least for a visit, minutes", half: true, needed: true },
  {
    name: "driveCharge",
    label: "Driving is charged by",
    kind: "choice",
    half: true,
    needed: true,
    options: Object.entries(DRIVE).map(([value, label]) => ({ value, label })),
  },
  { name: "driveChargePrice", label: "Price of it, without VAT", half: true },
  { name: "otherMarkupPercent", label: "Added to suppliers' bills, %", half: true, needed: true },
];

function ChargesForm({ now, version, close }: { now: Charges; version: number; close: () => void }) {
  return (
    <RecordForm
      title="Other ways of charging"
      confirm="Keep charging"
      fields={CHARGE_FIELDS}
      initial={{
        fromDay: "today",
        stepMinutes: String(now.stepMinutes),
        minimumMinutes: String(now.minimumMinutes),
        driveCharge: now.driveCharge,
        driveChargePrice: String(now.driveChargePrice),
        otherMarkupPercent: String(now.otherMarkupPercent),
        paymentDays: String(now.paymentDays),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/charges", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              stepMinutes: text(values, "stepMinutes"),
              minimumMinutes: text(values, "minimumMinutes"),
              driveCharge: values.driveCharge as Charges["driveCharge"],
              driveChargePrice: text(values, "driveChargePrice"),
              otherMarkupPercent: text(values, "otherMarkupPercent"),
              paymentDays: text(values, "paymentDays"),
            },
          }),
        )
      }
      close={close}
    />
  );
}

/** What an hour and a mile cost whoever works or drives. */
export function CostSettings() {
  const { data, error, version, withdraw } = useTerms("costs");
  return (
    <Dated
      name="Costs"
      about="A quote reckons with the standard cost until somebody is chosen for the work. Overhead is shown below the margin."
      terms={data?.costs}
      error={error}
      withdraw={withdraw}
      columns={["Standard, an hour", "Overhead, an hour", "A mile"].map(
        (name) => `${name}, ${currencyMark()}`,
      )}
      cells={(terms: Costs) => [
        unitPrice(terms.standardCostPerHour),
        unitPrice(terms.overheadPerHour),
        unitPrice(terms.costPerMile),
      ]}
      form={(now, close) => <CostsForm now={now} version={version} close={close} />}
    />
  );
}

const COST_FIELDS: RecordField[] = [
  FROM,
  { name: "standardCostPerHour", label: "Standard cost of an hour", half: true, needed: true },
  { name: "overheadPerHour", label: "Overhead of an hour", half: true, needed: true },
  { name: "costPerMile", label: "A van's cost per mile", half: true, needed: true },
];

function CostsForm({ now, version, close }: { now: Costs; version: number; close: () => void }) {
  return (
    <RecordForm
      title="Other costs"
      confirm="Keep costs"
      fields={COST_FIELDS}
      initial={{
        fromDay: "today",
        standardCostPerHour: String(now.standardCostPerHour),
        overheadPerHour: String(now.overheadPerHour),
        costPerMile: String(now.costPerMile),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/costs", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              standardCostPerHour: text(values, "standardCostPerHour"),
              overheadPerHour: text(values, "overheadPerHour"),
              costPerMile: text(values, "costPerMile"),
            },
          }),
        )
      }
      close={close}
    />
  );
}

const BANDS = 6;

/** By how much parts without a price of their own are marked up. */
export function MarkupSettings() {
  const { data, error, version, withdraw } = useTerms("markup");
  const bands = Math.max(1, ...(data?.markup ?? []).map((terms) => terms.bands.length));
  return (
    <Dated
      name="Markup on parts"
      about="For parts without a price of their own, by what they cost. The last band takes whatever costs more."
      terms={data?.markup}
      error={error}
      withdraw={withdraw}
      columns={Array.from({ length: bands }, (_, index) => `Band ${index + 1}`)}
      cells={(terms: MarkupBands) =>
        Array.from({ length: bands }, (_, index) => {
          const band = terms.bands[index];
          return band ? `to ${unitPrice(band.upToCost)}: ${band.markupPercent} %` : "";
        })
      }
      form={(now, close) => <MarkupForm now={now} version={version} close={close} />}
    />
  );
}

function MarkupForm({ now, version, close }: { now: MarkupBands; version: number; close: () => void }) {
  const indexes = Array.from({ length: Math.max(BANDS, now.bands.length) }, (_, index) => index);
  return (
    <RecordForm
      title="Another markup on parts"
      confirm="Keep markup"
      fields={[
        { ...FROM, half: false },
        ...indexes.flatMap((index): RecordField[] => [
          { name: `bands/${index}/upToCost`, label: `Band ${index + 1}: cost up to`, half: true },
          { name: `bands/${index}/markupPercent`, label: `Band ${index + 1}: markup, %`, half: true },
        ]),
      ]}
      initial={{
        fromDay: "today",
        ...Object.fromEntries(
          indexes.flatMap((index) => [
            [`bands/${index}/upToCost`, String(now.bands[index]?.upToCost ?? "")],
            [`bands/${index}/markupPercent`, String(now.bands[index]?.markupPercent ?? "")],
          ]),
        ),
      }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/terms/markup", {
            body: {
              version,
              fromDay: text(values, "fromDay"),
              bands: indexes.map((index) => ({
                upToCost: text(values, `bands/${index}/upToCost`),
                markupPercent: text(values, `bands/${index}/markupPercent`),
              })),
            },
          }),
        )
      }
      close={close}
    />
  );
}
