import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { queries } from "../api/queries";
import { day, headline, money } from "../format";
import { besideStyles } from "../kit/Beside";
import lines from "../kit/Lines.module.css";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import styles from "./BooksPage.module.css";
import { EntryLines } from "./EntryLines";

const amount = (minor: number) => (minor === 0 ? "" : money(minor));

/** The trial balance beside the journal, or beside one account with its running balance. */
export default function BooksPage() {
  const { code } = useParams();
  return (
    <div className={besideStyles.beside}>
      <TrialBalance chosen={code} />
      {code ? <Account key={code} code={code} /> : <Journal />}
    </div>
  );
}

function TrialBalance({ chosen }: { chosen: string | undefined }) {
  const { data } = useQuery(queries.trialBalance);
  const navigate = useNavigate();
  return (
    <section className={besideStyles.list} aria-label="Trial balance">
      <div className={besideStyles.head}>
        <div className={besideStyles.line}>
          <h2>Trial balance</h2>
          <Link className="small" to="/books/journal">
            Journal
          </Link>
          <a className="small" href="/api/books/trial-balance/file" download>
            CSV
          </a>
        </div>
      </div>
      <div className={besideStyles.rows} style={{ padding: "4px 16px 16px 20px" }}>
        <table className={`${lines.lines} ${styles.accounts}`}>
          <thead>
            <tr>
              <th colSpan={2}>account</th>
              <th className="figure">debit</th>
              <th className="figure">credit</th>
            </tr>
          </thead>
          <tbody>
            {data?.accounts.map((account) => (
              <tr
                key={account.code}
                className={account.code === chosen ? styles.on : undefined}
                data-account={account.code}
                onClick={() => navigate(`/books/${account.code}`)}
              >
                <td className="soft">{account.code}</td>
                <td>
                  <Link to={`/books/${account.code}`} style={{ textDecoration: "none" }}>
                    {account.name}
                  </Link>
                </td>
                <td className="figure">{amount(account.debitMinor)}</td>
                <td className="figure">{amount(account.creditMinor)}</td>
              </tr>
            ))}
            {data && (
              <tr className={lines.total} data-account="total">
                <td colSpan={2}>Balanced</td>
                <td className="figure">{money(data.debitMinor)}</td>
                <td className="figure">{money(data.creditMinor)}</td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Where a page begins is kept in the address, so that back works. */
function usePage(): [string | undefined, (before: string | number | null | undefined) => void] {
  const [search, setSearch] = useSearchParams();
  return [search.get("before") ?? undefined, (before) => setSearch(before ? { before: String(before) } : {})];
}

function Older({
  before,
  older,
}: {
  before: string | number | null | undefined;
  older: (before: string | number | null | undefined) => void;
}) {
  return before ? (
    <div className="actions" style={{ marginTop: 12 }}>
      <Button onClick={() => older(before)}>Older entries</Button>
    </div>
  ) : null;
}

function Journal() {
  const [before, older] = usePage();
  const { data } = useQuery(queries.journal(before ? Number(before) : undefined));
  useTitle("Journal");
  return (
    <article className={sheet.sheet} aria-label="Journal">
      <div className="pad">
        <div className={styles.head} style={{ marginBottom: 10 }}>
          <h1>Journal</h1>
          <span className="soft small">newest first; nothing is changed, only reversed</span>
          <a className="small" style={{ marginLeft: "auto" }} href="/api/books/journal/file" download>
            CSV
          </a>
        </div>
        {data?.entries.map((entry) => (
          <EntryLines key={entry.id} entry={entry} withJob />
        ))}
        {data?.entries.length === 0 && (
          <p className="soft">Nothing is posted yet. The first entry comes with the first checked visit.</p>
        )}
        <Older before={data?.before} older={older} />
      </div>
    </article>
  );
}

function Account({ code }: { code: string }) {
  const [before, older] = usePage();
  const { data, error } = useQuery(queries.account(code, before));
  useTitle(data && `${data.code} ${data.name}`);
  if (error && !data) {
    return (
      <div className={sheet.sheet}>
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  if (!data) {
    return <div className={sheet.sheet} aria-busy="true" />;
  }
  return (
    <article className={sheet.sheet} aria-label={data.name}>
      <div className="pad">
        <div className={styles.head} style={{ marginBottom: 8 }}>
          <h1>
            {data.code} {data.name}
          </h1>
          <span className="soft small">{data.kind}, newest first; the balance is debit less credit</span>
          <b style={{ marginLeft: "auto" }}>{money(data.balanceMinor)}</b>
        </div>
        <table className={lines.lines}>
          <thead>
            <tr>
              <th>entry</th>
              <th>day</th>
              <th>event</th>
              <th />
              <th className="figure">debit</th>
              <th className="figure">credit</th>
              <th className="figure">balance</th>
            </tr>
          </thead>
          <tbody>
            {data.entries.map((line, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: an entry may touch an account twice
              <tr key={`${line.entryId} ${index}`}>
                <td className="soft">{line.number}</td>
                <td>{day(line.date)}</td>
                <td>{headline(line.event)}</td>
                <td>
                  {line.jobNumber ? (
                    <Link to={`/jobs/${line.jobNumber}`}>{line.description}</Link>
                  ) : (
                    line.description
                  )}
                </td>
                <td className="figure">{amount(line.debitMinor)}</td>
                <td className="figure">{amount(line.creditMinor)}</td>
                <td className="figure">{money(line.balanceMinor)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {data.entries.length === 0 && <p className="soft">Nothing is posted to this account yet.</p>}
        <Older before={data.next} older={older} />
      </div>
    </article>
  );
}
