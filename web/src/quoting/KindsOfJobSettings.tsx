import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { KindOfJobSettings as Kind } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, words } from "../format";
import { CREWS, people } from "../kit/crews";
import { DeleteButton } from "../kit/DeleteButton";
import { Lines } from "../kit/Lines";
import { latest } from "../kit/latest";
import { RecordForm } from "../kit/RecordForm";
import { KeptSection } from "../people/KeptSection";
import { useMay } from "../people/useMay";

const PROMISES = ["fixed_price", "estimate", "not_more_than"] as const;

/** What may have to be there before a technician finishes a visit. */
const BEFORE_FINISH = [
  { code: "photo", label: "Not finished without a photo" },
  { code: "signature", label: "Not finished without a signature" },
  { code: "cause", label: "Not finished without the cause, where there is a fault" },
] as const;

/** What a job takes on from its kind. */
export function KindsOfJobSettings() {
  const { data, error } = useQuery(queries.kindsOfJob);
  const { data: books } = useQuery(queries.accountsSettings);
  const { data: kits } = useQuery(queries.kits);
  const [open, setOpen] = useState<Kind | "new">();
  const mayChange = useMay("change_settings");
  return (
    <KeptSection name="Kinds of job" error={error} add={() => setOpen("new")}>
      {data && (
        <Lines
          caption="Kinds of job"
          columns={[
            { name: "Kind" },
            { name: "Quotes promise" },
            { name: "Takes" },
            { name: "Cost centre" },
            { name: "Quotes begin with" },
            { name: "What can be done", silent: true },
          ]}
        >
          {data.kinds.map((kind) => (
            <tr key={kind.id}>
              <td>
                {kind.name}
                {kind.usualForCalls && <span className="soft small"> straight from calls</span>}
              </td>
              <td>{words(kind.promise)}</td>
              <td>
                {hours(kind.defaultMinutes)}
                {kind.crewSize > 1 && `, ${people(kind.crewSize)}`}
              </td>
              <td>{books?.costCentres.find(({ code }) => code === kind.costCentre)?.name}</td>
              <td>{kits?.find(({ id }) => id === kind.kitId)?.name ?? "labour and a call-out"}</td>
              <td className="figure">
                {mayChange && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`edit kind ${kind.name}`}
                    onClick={() => setOpen(kind)}
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
        A change holds for the next quote or job. The lines of a kit are kept in a quote, by “keep these lines
        as a kit”.
      </div>
      {open && data && (
        <KindForm
          kind={open === "new" ? undefined : latest(data.kinds, open)}
          version={data.version}
          close={() => setOpen(undefined)}
        />
      )}
    </KeptSection>
  );
}

function KindForm({ kind, version, close }: { kind: Kind | undefined; version: number; close: () => void }) {
  const { data: books } = useQuery(queries.accountsSettings);
  const { data: kits } = useQuery(queries.kits);
  const { data: vat } = useQuery(queries.vatSettings);
  return (
    <RecordForm
      title={kind ? kind.name : "Another kind of job"}
      confirm="Keep kind of job"
      fields={[
        { name: "name", label: "Name", half: true, needed: true },
        {
          name: "promise",
          label: "Its quotes promise",
          kind: "choice",
          half: true,
          needed: true,
          options: PROMISES.map((value) => ({ value, label: words(value) })),
        },
        { name: "defaultMinutes", label: "A visit takes", half: true, needed: true, hint: "1:30" },
        {
          name: "crewSize",
          label: "How many go together",
          kind: "choice",
          half: true,
          needed: true,
          options: CREWS,
        },
        {
          name: "costCentre",
          label: "Cost centre",
          kind: "choice",
          half: true,
          needed: true,
          options: (books?.costCentres ?? []).map(({ code, name }) => ({ value: code, label: name })),
        },
        {
          name: "kitId",
          label: "Its quotes begin with the kit",
          kind: "choice",
          half: true,
          options: (kits ?? []).map(({ id, name }) => ({ value: id, label: name })),
        },
        {
          name: "vatCode",
          label: "VAT, if not as the customer's",
          kind: "choice",
          half: true,
          options: (vat?.treatments ?? []).map(({ code }) => ({ value: code, label: words(code) })),
        },
        { name: "usualForCalls", label: "A job straight from a call is taken for it", kind: "tick" },
        ...BEFORE_FINISH.map(({ code, label }) => ({ name: code, label, kind: "tick" as const })),
        { name: "clockPerLine", label: "Its promised lines are clocked one by one", kind: "tick" },
      ]}
      initial={{
        name: kind?.name ?? "",
        promise: kind?.promise ?? "estimate",
        defaultMinutes: kind ? hours(kind.defaultMinutes) : "",
        crewSize: kind?.crewSize ?? 1,
        costCentre: kind?.costCentre,
        kitId: kind?.kitId ?? undefined,
        vatCode: kind?.vatCode ?? undefined,
        usualForCalls: kind?.usualForCalls ?? false,
        clockPerLine: kind?.clockPerLine ?? false,
        ...Object.fromEntries(
          BEFORE_FINISH.map(({ code }) => [code, kind?.beforeFinish.includes(code) ?? false]),
        ),
      }}
      version={version}
      save={(values, key, version) => {
        const body = {
          version,
          name: String(values.name ?? ""),
          promise: values.promise as Kind["promise"],
          defaultMinutes: String(values.defaultMinutes ?? ""),
          crewSize: values.crewSize as number | undefined,
          costCentre: values.costCentre as string | undefined,
          kitId: values.kitId as number | undefined,
          vatCode: values.vatCode as string | undefined,
          usualForCalls: values.usualForCalls === true,
          clockPerLine: values.clockPerLine === true,
          beforeFinish: BEFORE_FINISH.map(({ code }) => code).filter((code) => values[code] === true),
        };
        return kind
          ? answer(client.PUT("/api/settings/kinds-of-job/{id}", { params: { path: { id: kind.id } }, body }))
          : answer(client.POST("/api/settings/kinds-of-job", { params: withKey(key), body }));
      }}
      close={close}
      aside={
        kind &&
        kind.uses === 0 && (
          <DeleteButton
            what={kind.name}
            path="/api/settings/kinds-of-job/{id}"
            record={{ id: kind.id, version }}
            close={close}
          />
        )
      }
    />
  );
}
