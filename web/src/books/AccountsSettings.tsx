import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { AccountSettings, CostCentreSettings, PostingAccount } from "../api/generated/schema";
import { queries } from "../api/queries";
import { words } from "../format";
import { Lines } from "../kit/Lines";
import { type RecordField, RecordForm } from "../kit/RecordForm";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { KeptSection } from "../people/KeptSection";
import { useMay } from "../people/useMay";

const KINDS = ["asset", "liability", "income", "expense"] as const;

type Open =
  | { what: "account"; account?: AccountSettings }
  | { what: "posting"; posting: PostingAccount }
  | { what: "centre"; centre?: CostCentreSettings };

/** The chart of accounts, and what is posted where. */
export function AccountsSettings() {
  const { data, error } = useQuery(queries.accountsSettings);
  const [open, setOpen] = useState<Open>();
  const mayChange = useMay("change_settings");
  const version = data?.version ?? 0;
  const close = () => setOpen(undefined);
  const name = (code: string) => data?.accounts.find((account) => account.code === code)?.name;
  const remove = useAct(
    (code: string) =>
      answer(
        client.DELETE("/api/settings/accounts/{code}", { params: { path: { code }, query: { version } } }),
      ),
    { said: "The account is gone; nothing was ever posted to it." },
  );
  const edit = (label: string, act: () => void) =>
    mayChange && (
      <button type="button" className="plain small" aria-label={label} onClick={act}>
        edit
      </button>
    );
  return (
    <>
      <KeptSection name="Accounts" error={error} add={() => setOpen({ what: "account" })}>
        {data && (
          <Lines
            caption="Chart of accounts"
            columns={[
              { name: "Number" },
              { name: "Name" },
              { name: "Kind" },
              { name: "What can be done", silent: true },
            ]}
          >
            {data.accounts.map((account) => (
              <tr key={account.code}>
                <td>{account.code}</td>
                <td>{account.name}</td>
                <td>{account.kind}</td>
                <td className="figure">
                  {edit(`edit account ${account.code}`, () => setOpen({ what: "account", account }))}{" "}
                  {mayChange && !account.used && (
                    <button
                      type="button"
                      className="plain small"
                      aria-label={`delete account ${account.code}`}
                      onClick={() => remove.run(account.code)}
                    >
                      delete
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </Lines>
        )}
      </KeptSection>
      <Section name="What posts where">
        {data && (
          <Lines
            caption="Which account takes what"
            columns={[
              { name: "What is posted" },
              { name: "Goes to" },
              { name: "What can be done", silent: true },
            ]}
          >
            {data.postings.map((posting) => (
              <tr key={posting.category}>
                <td>{words(posting.category)}</td>
                <td>
                  {posting.accountCode} {name(posting.accountCode)}
                </td>
                <td className="figure">
                  {edit(`edit where ${words(posting.category)} goes`, () =>
                    setOpen({ what: "posting", posting }),
                  )}
                </td>
              </tr>
            ))}
          </Lines>
        )}
        <div className="soft small">
          A change holds for what is posted from now on. An account of the balance sheet moves only while it
          holds nothing.
        </div>
      </Section>
      <KeptSection name="Cost centres" error={null} add={() => setOpen({ what: "centre" })}>
        {data && (
          <Lines
            caption="Cost centres"
            columns={[
              { name: "Name", silent: true },
              { name: "What can be done", silent: true },
            ]}
          >
            {data.costCentres.map((centre) => (
              <tr key={centre.code}>
                <td>{centre.name}</td>
                <td className="figure">
                  {edit(`edit cost centre ${centre.name}`, () => setOpen({ what: "centre", centre }))}
                </td>
              </tr>
            ))}
          </Lines>
        )}
        <div className="soft small">The parts of the company that answer for what they sell and cost.</div>
      </KeptSection>
      {open?.what === "account" && <AccountForm account={open.account} version={version} close={close} />}
      {open?.what === "centre" && <CentreForm centre={open.centre} version={version} close={close} />}
      {open?.what === "posting" && data && (
        <PostingForm posting={open.posting} accounts={data.accounts} version={version} close={close} />
      )}
    </>
  );
}

function AccountForm({
  account,
  version,
  close,
}: {
  account: AccountSettings | undefined;
  version: number;
  close: () => void;
}) {
  const fields: RecordField[] = account
    ? [{ name: "name", label: "Name", needed: true }]
    : [
        { name: "code", label: "Number", half: true, needed: true, hint: "4040" },
        {
          name: "kind",
          label: "Kind",
          kind: "choice",
          half: true,
          needed: true,
          options: KINDS.map((value) => ({ value, label: value })),
        },
        { name: "name", label: "Name", needed: true },
      ];
  return (
    <RecordForm
      title={account ? `${account.code} ${account.name}` : "Another account"}
      confirm="Keep account"
      fields={fields}
      initial={{ code: account?.code ?? "", name: account?.name ?? "", kind: account?.kind }}
      version={version}
      save={(values, _, version) => {
        const body = {
          version,
          code: String(values.code ?? ""),
          name: String(values.name ?? ""),
          kind: values.kind as AccountSettings["kind"],
        };
        return account
          ? answer(
              client.PUT("/api/settings/accounts/{code}", { params: { path: { code: account.code } }, body }),
            )
          : answer(client.POST("/api/settings/accounts", { body }));
      }}
      close={close}
    />
  );
}

function PostingForm({
  posting,
  accounts,
  version,
  close,
}: {
  posting: PostingAccount;
  accounts: AccountSettings[];
  version: number;
  close: () => void;
}) {
  return (
    <RecordForm
      title={`Where ${words(posting.category)} goes`}
      confirm="Keep account"
      fields={[
        {
          name: "accountCode",
          label: "Account",
          kind: "choice",
          needed: true,
          options: accounts.map(({ code, name }) => ({ value: code, label: `${code} ${name}` })),
        },
      ]}
      initial={{ accountCode: posting.accountCode }}
      version={version}
      save={(values, _, version) =>
        answer(
          client.PUT("/api/settings/posting-accounts/{category}", {
            params: { path: { category: posting.category } },
            body: { version, accountCode: String(values.accountCode ?? "") },
          }),
        )
      }
      close={close}
    />
  );
}

const CentreForm = ({
  centre,
  version,
  close,
}: {
  centre: CostCentreSettings | undefined;
  version: number;
  close: () => void;
}) => (
  <RecordForm
    title={centre ? centre.name : "Another cost centre"}
    confirm="Keep cost centre"
    fields={[{ name: "name", label: "Name", needed: true }]}
    initial={{ name: centre?.name ?? "" }}
    version={version}
    save={(values, _, version) => {
      const body = { version, name: String(values.name ?? "") };
      return centre
        ? answer(
            client.PUT("/api/settings/cost-centres/{code}", {
              params: { path: { code: centre.code } },
              body,
            }),
          )
        : answer(client.POST("/api/settings/cost-centres", { body }));
    }}
    close={close}
  />
);
