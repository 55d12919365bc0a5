import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { VatTreatmentSettings as Treatment } from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday, words } from "../format";
import { Lines } from "../kit/Lines";
import { latestBy } from "../kit/latest";
import { type RecordField, RecordForm } from "../kit/RecordForm";
import { useAct } from "../kit/useAct";
import { KeptSection } from "../people/KeptSection";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { byDay } from "./Dated";

/** By EN 16931 (UNCL 5305), in the words of the trade. */
const CATEGORIES = {
  S: "rated",
  Z: "zero rated",
  E: "exempt",
  AE: "reverse charge",
  O: "outside the scope of VAT",
} as const;

const EXPLAINED: Treatment["category"][] = ["E", "AE", "O"];

/** How VAT applies to what the company sells. */
export function VatSettings() {
  const { data, error } = useQuery(queries.vatSettings);
  const [open, setOpen] = useState<Treatment | "new">();
  const mayChange = useMay("change_settings");
  const today = useSession().now.slice(0, 10);
  const version = data?.version ?? 0;
  const withdraw = useAct(
    ({ code, fromDay }: { code: string; fromDay: string }) =>
      answer(
        client.DELETE("/api/settings/vat/{code}/{fromDay}", {
          params: { path: { code, fromDay }, query: { version } },
        }),
      ),
    { said: "Taken back. The percent that holds now goes on." },
  );
  return (
    <KeptSection name="VAT" error={error} add={() => setOpen("new")}>
      {data && (
        <Lines
          caption="VAT treatments"
          columns={[
            { name: "Treatment" },
            { name: "Kind" },
            { name: "Percent", figure: true },
            { name: "From a later day", silent: true },
            { name: "What can be done", silent: true },
          ]}
        >
          {data.treatments.map((treatment) => {
            const { now, coming } = byDay(treatment.percents, today);
            return (
              <tr key={treatment.code}>
                <td>
                  {words(treatment.code)}
                  {treatment.usual && <span className="soft">, taken unless another is said</span>}
                </td>
                <td>
                  {CATEGORIES[treatment.category]}
                  {treatment.reason && <span className="soft">: {treatment.reason}</span>}
                </td>
                <td className="figure">{now && `${now.percent} %`}</td>
                <td>
                  {coming.map((one) => (
                    <div key={one.fromDay}>
                      <b className="needs">
                        {one.percent} % from {weekday(one.fromDay)}
                      </b>{" "}
                      {mayChange && (
                        <button
                          type="button"
                          className="plain small"
                          aria-label={`take back ${one.percent} % from ${weekday(one.fromDay)}`}
                          onClick={() => withdraw.run({ code: treatment.code, fromDay: one.fromDay })}
                        >
                          take back
                        </button>
                      )}
                    </div>
                  ))}
                </td>
                <td className="figure">
                  {mayChange && (
                    <button
                      type="button"
                      className="plain small"
                      aria-label={`edit VAT ${words(treatment.code)}`}
                      onClick={() => setOpen(treatment)}
                    >
                      edit
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </Lines>
      )}
      <div className="soft small">A document has the percent of its tax day, whenever it is printed.</div>
      {open && (
        <VatForm
          treatment={
            open === "new" ? undefined : latestBy(data?.treatments, (one) => one.code === open.code, open)
          }
          version={version}
          today={today}
          close={() => setOpen(undefined)}
        />
      )}
    </KeptSection>
  );
}

function VatForm({
  treatment,
  version,
  today,
  close,
}: {
  treatment: Treatment | undefined;
  version: number;
  today: string;
  close: () => void;
}) {
  const rated = !treatment || treatment.category === "S";
  const explained = !treatment || EXPLAINED.includes(treatment.category);
  const fields: RecordField[] = [
    ...(treatment
      ? []
      : ([
          { name: "code", label: "Short name", half: true, needed: true, hint: "reduced 14" },
          {
            name: "category",
            label: "Kind",
            kind: "choice",
            half: true,
            needed: true,
            options: Object.entries(CATEGORIES).map(([value, label]) => ({ value, label })),
          },
        ] as RecordField[])),
    ...(rated
      ? ([
          { name: "percent", label: treatment ? "Percent" : "Percent, if rated", half: true, hint: "14" },
          { name: "fromDay", label: "Holds from", half: true, hint: "today, mon, 1 jan" },
        ] as RecordField[])
      : []),
    ...(explained
      ? ([
          {
            name: "reason",
            label: treatment ? "Why there is no VAT" : "Why there is no VAT, if exempt, reversed or outside",
          },
        ] as RecordField[])
      : []),
    { name: "usual", label: "Taken unless another is said", kind: "tick" },
  ];
  const now = treatment ? byDay(treatment.percents, today).now : undefined;
  return (
    <RecordForm
      title={treatment ? `VAT: ${words(treatment.code)}` : "Another VAT treatment"}
      confirm="Keep treatment"
      fields={fields}
      initial={{
        code: "",
        category: treatment?.category ?? "S",
        percent: now ? String(now.percent) : "",
        fromDay: "today",
        reason: treatment?.reason ?? "",
        usual: treatment?.usual ?? false,
      }}
      version={version}
      save={(values, _, version) => {
        const body = {
          version,
          code: String(values.code ?? ""),
          category: values.category as Treatment["category"],
          percent: String(values.percent ?? ""),
          fromDay: String(values.fromDay ?? ""),
          reason: String(values.reason ?? ""),
          usual: values.usual === true,
        };
        return treatment
          ? answer(
              client.PUT("/api/settings/vat/{code}", { params: { path: { code: treatment.code } }, body }),
            )
          : answer(client.POST("/api/settings/vat", { body }));
      }}
      close={close}
    />
  );
}
