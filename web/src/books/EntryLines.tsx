import { Link } from "react-router";
import type { AccountLine, BooksEntry } from "../api/generated/schema";
import { day, headline, money } from "../format";

const amount = (minor: number) => (minor === 0 ? "" : money(minor));

/** The two money columns of a journal entry, with its sum when asked. */
export function AccountLines({
  lines,
  debit,
  credit,
  head,
}: {
  lines: AccountLine[];
  debit?: number;
  credit?: number;
  head?: string;
}) {
  return (
    <table className="lines account-lines">
      {head && (
        <thead>
          <tr>
            <th>{head}</th>
            <th className="figure">debit</th>
            <th className="figure">credit</th>
          </tr>
        </thead>
      )}
      <tbody>
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: an entry's lines never change
          <tr key={index} data-account={line.accountCode}>
            <td>
              <Link to={`/books/${line.accountCode}`} style={{ textDecoration: "none" }}>
                {line.accountName}
              </Link>
              {line.costCentre && <span className="soft small"> {line.costCentre}</span>}
            </td>
            <td className="figure">{amount(line.debitMinor)}</td>
            <td className="figure">{amount(line.creditMinor)}</td>
          </tr>
        ))}
        {debit !== undefined && credit !== undefined && (
          <tr className="total">
            <td>Balanced</td>
            <td className="figure">{money(debit)}</td>
            <td className="figure">{money(credit)}</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** A posted entry with its number, day and where it came from. */
export function EntryLines({ entry, withJob }: { entry: BooksEntry; withJob?: boolean }) {
  return (
    <div className="entry" data-entry={entry.number}>
      <div className="entry-head small">
        <span className="soft">
          {entry.number} · {day(entry.date)}
        </span>
        <b>
          {headline(entry.event)}
          {entry.reverses && <span className="soft"> of entry {entry.reverses}</span>}
        </b>
        {withJob && entry.jobNumber ? (
          <Link to={`/jobs/${entry.jobNumber}`}>{entry.description}</Link>
        ) : (
          <span className="soft">{entry.description}</span>
        )}
        <span className="soft" style={{ marginLeft: "auto" }}>
          by {entry.postedBy}
        </span>
      </div>
      <AccountLines lines={entry.lines} />
    </div>
  );
}
