import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { PromisedTime, ResponseTerms } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, weekday } from "../format";
import { History } from "../history/History";
import { DeleteButton } from "../kit/DeleteButton";
import lines from "../kit/Lines.module.css";
import { latest } from "../kit/latest";
import { type RecordField, RecordForm, type Values } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { KeptSection } from "../people/KeptSection";
import { useMay } from "../people/useMay";

const PRIORITIES = ["emergency", "urgent", "normal", "low"] as const;

/** How soon somebody is on site, for whom. */
export function ResponseTermsSettings() {
  const { data, error } = useQuery(queries.responseTerms);
  const [open, setOpen] = useState<ResponseTerms | "new">();
  const mayChange = useMay("change_settings");
  return (
    <KeptSection name="Promised times" error={error} add={() => setOpen("new")}>
      <table className={lines.lines}>
        <thead>
          <tr>
            <th />
            {PRIORITIES.map((priority) => (
              <th key={priority}>{priority}</th>
            ))}
            <th className="figure">holds for</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {data?.flatMap((terms) => [
            <tr key={terms.id}>
              <td>{terms.name}</td>
              {terms.times.map((time) => (
                <td key={time.priority}>
                  {hours(time.minutes)}{" "}
                  <span className="soft small">{time.aroundTheClock ? "by the clock" : "working"}</span>
                </td>
              ))}
              <td className="figure">{terms.usual ? "everybody else" : customers(terms.customers)}</td>
              <td className="figure">
                {mayChange && (
                  <button type="button" className="plain small" onClick={() => setOpen(terms)}>
                    edit
                  </button>
                )}
              </td>
            </tr>,
            ...terms.coming.map((times) => (
              <Coming key={`${terms.id} ${times.fromDay}`} terms={terms} times={times} />
            )),
          ])}
        </tbody>
      </table>
      <div className="soft small">
        hours until somebody is there; working hours leave out nights, days off and the holidays below
      </div>
      {open && (
        <TermsForm terms={open === "new" ? undefined : latest(data, open)} close={() => setOpen(undefined)} />
      )}
    </KeptSection>
  );
}

/** What is promised from a day that is to come. */
function Coming({ terms, times }: { terms: ResponseTerms; times: ResponseTerms["coming"][number] }) {
  const mayChange = useMay("change_settings");
  const withdraw = useAct(
    () =>
      answer(
        client.DELETE("/api/settings/response-terms/{id}/{fromDay}", {
          params: { path: { id: terms.id, fromDay: times.fromDay }, query: { version: terms.version } },
        }),
      ),
    { said: "Taken back. What is promised now goes on." },
  );
  return (
    <tr>
      <td>
        <b className="needs">from {weekday(times.fromDay)}</b>
      </td>
      {times.times.map((time) => (
        <td key={time.priority}>
          {hours(time.minutes)}{" "}
          <span className="soft small">{time.aroundTheClock ? "by the clock" : "working"}</span>
        </td>
      ))}
      <td />
      <td className="figure">
        {mayChange && (
          <button
            type="button"
            className="plain small"
            aria-label={`take back ${terms.name} from ${weekday(times.fromDay)}`}
            onClick={() => withdraw.run()}
          >
            take back
          </button>
        )}
      </td>
    </tr>
  );
}

const customers = (count: number): string => (count === 1 ? "1 customer" : `${count} customers`);

const FIELDS: RecordField[] = [
  { name: "name", label: "Name", half: true },
  { name: "fromDay", label: "Promised from", half: true, hint: "today, mon, 1 jan" },
  ...PRIORITIES.flatMap((priority, index): RecordField[] => [
    { name: timeName(index), label: `${priority}: there within`, hint: "4:00", half: true },
    { name: clockName(index), label: "nights and days off count too", kind: "tick", half: true },
  ]),
];

function timeName(index: number): string {
  return `times/${index}/time`;
}

function clockName(index: number): string {
  return `times/${index}/aroundTheClock`;
}

function TermsForm({ terms, close }: { terms: ResponseTerms | undefined; close: () => void }) {
  return (
    <RecordForm
      title={terms ? terms.name : "More promised times"}
      confirm="Save times"
      fields={FIELDS}
      initial={{ name: terms?.name ?? "", fromDay: "today", ...typed(terms?.times ?? []) }}
      version={terms?.version ?? 0}
      save={(values, key, version) => {
        const body = {
          version,
          name: String(values.name ?? ""),
          fromDay: String(values.fromDay ?? ""),
          times: PRIORITIES.map((priority, index) => ({
            priority,
            time: String(values[timeName(index)] ?? ""),
            aroundTheClock: values[clockName(index)] === true,
          })),
        };
        return terms
          ? answer(
              client.PUT("/api/settings/response-terms/{id}", { params: { path: { id: terms.id } }, body }),
            )
          : answer(client.POST("/api/settings/response-terms", { params: withKey(key), body }));
      }}
      close={close}
      below={terms && <History kind="response_terms" id={terms.id} />}
      aside={
        terms &&
        !terms.usual && (
          <DeleteButton
            what={terms.name}
            path="/api/settings/response-terms/{id}"
            record={terms}
            close={close}
          />
        )
      }
    />
  );
}

const typed = (times: PromisedTime[]): Values =>
  Object.fromEntries(
    times.flatMap((time, index) => [
      [timeName(index), hours(time.minutes)],
      [clockName(index), time.aroundTheClock],
    ]),
  );
