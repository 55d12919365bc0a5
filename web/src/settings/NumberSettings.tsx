import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { NumberedSeries } from "../api/generated/schema";
import { queries } from "../api/queries";
import { words } from "../format";
import { Lines } from "../kit/Lines";
import { latestBy } from "../kit/latest";
import { RecordForm } from "../kit/RecordForm";
import { Section } from "../kit/Section";
import { useMay } from "../people/useMay";

/** How documents are numbered: what comes next, and what stands before it. */
export function NumberSettings() {
  const { data, error } = useQuery(queries.numberSeries);
  const [open, setOpen] = useState<NumberedSeries>();
  const mayChange = useMay("change_settings");
  return (
    <Section name="Numbers">
      {error && <p className="fault">{error.message}</p>}
      {data && (
        <Lines
          caption="Number series"
          columns={[
            { name: "Of" },
            { name: "The next one", figure: true },
            { name: "What can be done", silent: true },
          ]}
        >
          {data.series.map((one) => (
            <tr key={one.series}>
              <td>{words(one.series)}</td>
              <td className="figure">{one.printed}</td>
              <td className="figure">
                {mayChange && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`edit numbers of ${words(one.series)}`}
                    onClick={() => setOpen(one)}
                  >
                    edit
                  </button>
                )}
              </td>
            </tr>
          ))}
        </Lines>
      )}
      <div className="soft small">
        Numbers have no gaps. What has a number keeps it as it was printed; a prefix stands on quotes,
        invoices and credit notes.
      </div>
      {open && data && (
        <NumberForm
          series={latestBy(data.series, (one) => one.series === open.series, open)}
          version={data.version}
          close={() => setOpen(undefined)}
        />
      )}
    </Section>
  );
}

function NumberForm({
  series,
  version,
  close,
}: {
  series: NumberedSeries;
  version: number;
  close: () => void;
}) {
  return (
    <RecordForm
      title={`Numbers: ${words(series.series)}`}
      confirm="Keep numbers"
      fields={[
        { name: "prefix", label: "Prefix, if any", half: true, hint: "INV-" },
        { name: "nextNumber", label: "Next number, never a lower one", half: true, needed: true },
      ]}
      initial={{ prefix: series.prefix, nextNumber: String(series.nextNumber) }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/number-series/{series}", {
            params: { path: { series: series.series } },
            body: {
              version,
              prefix: String(values.prefix ?? ""),
              nextNumber: String(values.nextNumber ?? ""),
            },
          }),
        )
      }
      close={close}
    />
  );
}
