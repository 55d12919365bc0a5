import { Link } from "react-router";
import type { AccountLine, BooksEntry } from "../api/generated/schema";
import { day, headline, money } from "../format";
import { Lines, TotalLine } from "../kit/Lines";
import styles from "./EntryLines.module.css";

const amount = (minor: number) => (minor === 0 ? "" : money(minor));

/** The two money columns of a journal entry, with its sum when asked. */
export function AccountLines({
  lines,
  debit,
  credit,
  head,
  caption,
}: {
  lines: AccountLine[];
  debit?: number;
  credit?: number;
  head?: string;
  /** What the table is, such as "entry 1204". */
  caption: string;
}) {
  return (
    <Lines
      caption={caption}
      fixed
      columns={[
        { name: head ?? "Account", silent: !head },
        { name: "debit", silent: !head, figure: true, width: 86 },
        { name: "credit", silent: !head, figure: true, width: 86 },
      ]}
    >
      {lines.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: an entry's lines never change
        <tr key={index} data-account={line.accountCode}>
          <td>
            <Link to={`/books/${line.accountCode}`} className={styles.account}>
              {line.accountName}
            </Link>
            {line.costCentre && <span className="soft small"> {line.costCentre}</span>}
          </td>
          <td className="figure">{amount(line.debitMinor)}</td>
          <td className="figure">{amount(line.creditMinor)}</td>
        </tr>
      ))}
      {debit !== undefined && credit !== undefined && (
        <TotalLine>
          <td>Balanced</td>
          <td className="figure">{money(debit)}</td>
          <td className="figure">{money(credit)}</td>
        </TotalLine>
      )}
    </Lines>
  );
}

/** A posted entry with its number, day and where it came from. */
export function EntryLines({ entry, withJob }: { entry: BooksEntry; withJob?: boolean }) {
  return (
    <div className={styles.entry} id={`entry-${entry.number}`} data-entry={entry.number}>
      <div className={styles.head}>
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
        <span className={styles.by}>by {entry.postedBy}</span>
      </div>
      <AccountLines caption={`Entry ${entry.number}`} lines={entry.lines} />
    </div>
  );
}
