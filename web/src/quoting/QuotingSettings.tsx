import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, type Problem } from "../api/client";
import type { QuotingSettings as Settings } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Overtaken } from "../kit/Overtaken";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { useTyped } from "../kit/useTyped";
import { useMay } from "../people/useMay";
import styles from "./QuotingSettings.module.css";

/** What holds for every quote until somebody says otherwise on it. */
export function QuotingSettings() {
  const { data, error } = useQuery(queries.quotingSettings);
  return (
    <Section name="Quotes">
      {error && <p className="fault">{error.message}</p>}
      {data && <SettingsForm settings={data} />}
    </Section>
  );
}

const FIELDS = [
  {
    name: "quoteValidDays",
    label: "A quote stays valid for",
    unit: "days",
    meaning: "Each quote can have its own last day.",
  },
  {
    name: "followUpDays",
    label: "Without an answer it comes up after",
    unit: "days",
    meaning: "Under Follow up, the largest first.",
  },
  {
    name: "depositDueDays",
    label: "A deposit is due within",
    unit: "days",
    meaning: "Counted from the day on which the customer accepts.",
  },
  {
    name: "floorMarginPercent",
    label: "A margin is marked below",
    unit: "%",
    meaning: "Of the net price, on each line and on the total. Customers never see it.",
  },
] as const;

const WORDS = [
  {
    name: "letterOpening",
    label: "Mail to a customer begins, after the name",
    hint: "nothing; the quote and its link follow at once",
  },
  { name: "letterClosing", label: "and ends", hint: "the company's name" },
] as const;

const LABELS = Object.fromEntries([...FIELDS, ...WORDS].map((field) => [field.name, field.label]));

function SettingsForm({ settings }: { settings: Settings }) {
  const mayChange = useMay("change_settings");
  const typed = useTyped(
    {
      version: settings.version,
      draft: {
        quoteValidDays: String(settings.quoteValidDays),
        followUpDays: String(settings.followUpDays),
        depositDueDays: String(settings.depositDueDays),
        floorMarginPercent: String(settings.floorMarginPercent),
        letterOpening: settings.letterOpening,
        letterClosing: settings.letterClosing,
      },
    },
    "quoting settings",
  );
  const [problem, setProblem] = useState<Problem>();
  const store = useAct(
    () => answer(client.PUT("/api/settings/quoting", { body: { ...typed.draft, version: typed.version } })),
    {
      done: () => {
        setProblem(undefined);
        typed.forget();
      },
      refused: setProblem,
      said: "Kept. It holds from the next quote on.",
    },
  );
  return (
    <form
      className={styles.settings}
      onSubmit={(event) => {
        event.preventDefault();
        store.run();
      }}
    >
      {!store.running && <Overtaken what="these settings" typed={typed} names={LABELS} />}
      {FIELDS.map((field) => (
        <label key={field.name} className={styles.setting}>
          <span>{field.label}</span>
          <Input
            aria-label={field.label}
            className="figure"
            suffix={field.unit}
            readOnly={!mayChange}
            value={typed.draft[field.name]}
            onChange={(event) => typed.change({ [field.name]: event.target.value })}
          />
          <span className="small soft">{field.meaning}</span>
          {problem?.at(`/${field.name}`) && (
            <span className="fault" role="alert">
              {problem.at(`/${field.name}`)}
            </span>
          )}
        </label>
      ))}
      {WORDS.map((field) => (
        <label key={field.name} className={`${styles.setting} ${styles.inWords}`}>
          <span>{field.label}</span>
          <Input.TextArea
            aria-label={field.label}
            autoSize={{ minRows: 2, maxRows: 6 }}
            readOnly={!mayChange}
            placeholder={field.hint}
            value={typed.draft[field.name]}
            onChange={(event) => typed.change({ [field.name]: event.target.value })}
          />
          {problem?.at(`/${field.name}`) && (
            <span className="fault" role="alert">
              {problem.at(`/${field.name}`)}
            </span>
          )}
        </label>
      ))}
      {mayChange && (
        <Button type="primary" htmlType="submit" loading={store.running}>
          Keep these settings
        </Button>
      )}
    </form>
  );
}
