import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Document } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, money, words } from "../format";
import lines from "../kit/Lines.module.css";
import { Section } from "../kit/Section";

/** Every quote, job and invoice of a customer, read only when somebody wants them. */
export function Documents({ customerId }: { customerId: number }) {
  const [shown, setShown] = useState(false);
  const list = useInfiniteQuery({ ...queries.documents(customerId), enabled: shown });
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const files = `/api/customers/${customerId}/documents/file`;
  return (
    <Section
      name="Documents"
      aside={
        <>
          <a href={`${files}?format=csv`} download className="small">
            CSV
          </a>{" "}
          <a href={`${files}?format=xlsx`} download className="small">
            XLSX
          </a>
        </>
      }
    >
      {!shown && (
        <button type="button" className="plain small" onClick={() => setShown(true)}>
          show all quotes, jobs and invoices
        </button>
      )}
      {list.error && <span className="fault">{list.error.message}</span>}
      <table className={lines.lines}>
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.kind} ${row.id}`}>
              <td>{fullDay(row.day)}</td>
              <td>
                <Link to={`/${row.kind}s/${row.number}`}>
                  {KIND[row.kind]} {row.number}
                </Link>{" "}
                {row.title}
              </td>
              <td className="soft">{words(row.state)}</td>
              <td className="figure">{amount(row)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.hasNextPage && (
        <button
          type="button"
          className="plain small"
          disabled={list.isFetchingNextPage}
          onClick={() => list.fetchNextPage()}
        >
          show older ones
        </button>
      )}
      {shown && list.isSuccess && rows.length === 0 && <span className="soft">There are none yet.</span>}
    </Section>
  );
}

const KIND: Record<string, string> = { quote: "Quote", job: "Job", invoice: "Invoice" };

const amount = (row: Document) => (row.amountMinor == null ? "" : money(row.amountMinor));
