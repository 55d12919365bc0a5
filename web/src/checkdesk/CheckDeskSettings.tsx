import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { WatchedOddity } from "../api/generated/schema";
import { queries } from "../api/queries";
import { type RecordField, RecordForm } from "../kit/RecordForm";
import { Section } from "../kit/Section";
import { useMay } from "../people/useMay";

const WORDS: Record<WatchedOddity["oddity"], string> = {
  no_end: "A clock without a sure end",
  no_labour: "No work",
  no_drive: "Work without a drive",
  long_drive: "A drive longer than the road",
  long_labour: "More labour than promised",
  day_gap: "A gap in the day before it",
  long_day: "A day longer than the pattern",
  corrected_clock: "Time written by hand",
  away_from_site: "Taps away from the site",
  free_part: "A part without price or cost",
  more_parts: "More parts than promised",
  outside_agreement: "Work outside the agreement",
  below_zero: "Stock below zero",
  unpriced_part: "A part still to be priced",
  part_wanted: "A part still wanted",
  extra_work_open: "Extra work without a yes",
  no_signature: "A missing signature",
  checklist_open: "A checklist with open questions",
  out_of_limits: "An answer out of limits",
  phone_behind: "Something still on a phone",
};

const UNITS = { times: "times", minutes: "minutes", miles: "miles" } as const;

const limited = ({ limit, unit }: WatchedOddity): string =>
  unit == null ? "" : `, from ${limit} ${UNITS[unit]}`;

/** Those with a limit first, each beside its own. */
const fields = (rules: WatchedOddity[]): RecordField[] => [
  ...rules.flatMap((rule, place): RecordField[] =>
    rule.unit == null
      ? []
      : [
          tick(rule),
          {
            name: `rules/${place}/limit`,
            label: `From so many ${UNITS[rule.unit]}`,
            half: true,
            hint: `usually ${rule.usualLimit}`,
          },
        ],
  ),
  ...rules.filter(({ unit }) => unit == null).map(tick),
];

const tick = ({ oddity }: WatchedOddity): RecordField => ({
  name: oddity,
  label: WORDS[oddity],
  kind: "tick",
  half: true,
});

/** What the check desk tells of a finished visit, and from where on. */
export function CheckDeskSettings() {
  const { data, error } = useQuery(queries.checkRules);
  const mayChange = useMay("change_settings");
  const [changing, setChanging] = useState(false);
  const told = (data?.rules ?? []).filter(({ watched }) => watched);
  const untold = (data?.rules ?? []).filter(({ watched }) => !watched);
  return (
    <Section
      name="Check desk"
      aside={
        mayChange &&
        data && (
          <button
            type="button"
            className="plain small"
            aria-label="change check desk"
            onClick={() => setChanging(true)}
          >
            change
          </button>
        )
      }
    >
      {error && <p className="fault">{error.message}</p>}
      {data && (
        <>
          <p>
            Told as odd:{" "}
            {told.map((rule) => `${WORDS[rule.oddity].toLowerCase()}${limited(rule)}`).join("; ")}.
          </p>
          {untold.length > 0 && (
            <p className="soft">
              Not told: {untold.map((rule) => WORDS[rule.oddity].toLowerCase()).join("; ")}.
            </p>
          )}
        </>
      )}
      {changing && data && (
        <RecordForm
          title="What is told as odd"
          confirm="Keep it"
          fields={fields(data.rules)}
          initial={Object.fromEntries(
            data.rules.flatMap((rule, place) => [
              [rule.oddity, rule.watched],
              [`rules/${place}/limit`, rule.limit == null ? "" : String(rule.limit)],
            ]),
          )}
          version={data.version}
          save={(values, _, version) =>
            answer(
              client.PUT("/api/settings/check-rules", {
                body: {
                  version,
                  rules: data.rules.map(({ oddity }, place) => ({
                    oddity,
                    watched: values[oddity] === true,
                    limit: String(values[`rules/${place}/limit`] ?? ""),
                  })),
                },
              }),
            )
          }
          close={() => setChanging(false)}
        />
      )}
    </Section>
  );
}
