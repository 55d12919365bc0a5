import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { CustomerRow } from "../api/generated/schema";
import { CUSTOMER_SORTS, queries } from "../api/queries";
import { moneyOrDash } from "../format";
import { besideStyles } from "../kit/Beside";
import {
  askedFor,
  KeyedList,
  ListEnd,
  ListFiles,
  ListFilter,
  moved,
  useKeptInSight,
  useListSearch,
} from "../kit/KeyedList";
import lines from "../kit/Lines.module.css";
import { Select } from "../kit/Select";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";

/** Everybody we work for; j, k and the arrows move, Enter opens the card. */
export default function CustomersPage() {
  const [search, setSearch] = useListSearch();
  const sort = askedFor(CUSTOMER_SORTS, search.get("sort"));
  const filter = search.get("filter") ?? "";
  const list = useInfiniteQuery(queries.customers(sort, filter));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  useTitle("Customers");
  const set = (name: string, value: string) => {
    setAt(0);
    setSearch(name, value);
  };
  const open = () => {
    const row = rows[at];
    if (row) {
      navigate(`/customers/${row.id}`);
    }
  };

  return (
    <div className={`${sheet.sheet} ${sheet.alone}`}>
      <div className={besideStyles.head}>
        <div className={besideStyles.line}>
          <h1>Customers</h1>
          <Link to="/imports">Import…</Link>
          <ListFiles path="/api/customers" search={search} />
        </div>
        <div className={besideStyles.tools}>
          <ListFilter
            placeholder="Filter by name, street, mail…"
            value={filter}
            change={(typed) => set("filter", typed)}
          />
          <Select
            aria-label="Sort the list"
            value={sort}
            onChange={(value) => set("sort", value === "name" ? "" : value)}
            options={[
              { value: "name", label: "by name" },
              { value: "owed", label: "who owes" },
            ]}
          />
        </div>
      </div>
      <KeyedList
        label="Customers"
        role="group"
        on={undefined}
        move={(by) => setAt(moved(at, by, rows.length))}
        enter={open}
      >
        <table className={`${lines.lines} ${lines.wide}`}>
          <thead>
            <tr>
              <th>C</th>
              <th>Name</th>
              <th>Phone</th>
              <th>Address</th>
              <th className="figure">owed</th>
              <th className="figure">late</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, index) => (
              <Row key={row.id} row={row} on={index === at} />
            ))}
          </tbody>
        </table>
      </KeyedList>
      <ListEnd
        list={list}
        none={
          list.data && rows.length === 0
            ? filter
              ? "Nobody matches. Clear the filter to see all."
              : sort === "owed"
                ? "Nobody owes anything."
                : "No customer yet. Take the first call with / and the name."
            : undefined
        }
      />
    </div>
  );
}

function Row({ row, on }: { row: CustomerRow; on: boolean }) {
  const element = useKeptInSight<HTMLTableRowElement>(on);
  return (
    <tr ref={element} aria-selected={on}>
      <td className="soft">{row.number}</td>
      <td>
        <Link to={`/customers/${row.id}`}>{row.name}</Link>
        {row.onStop && <span className="needs"> on stop</span>}
      </td>
      <td>{row.phone}</td>
      <td className="soft">{[row.address, row.postcode].filter(Boolean).join(", ")}</td>
      <td className="figure">{moneyOrDash(row.owedMinor)}</td>
      <td className={row.lateMinor > 0 ? "figure needs" : "figure"}>{moneyOrDash(row.lateMinor)}</td>
    </tr>
  );
}
