import { useInfiniteQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { CustomerRow } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moneyOrDash } from "../format";
import { useTitle } from "../useTitle";

/** Everybody we work for; j, k and the arrows move, Enter opens the card. */
export default function CustomersPage() {
  const [search, setSearch] = useSearchParams();
  const sort = search.get("sort") ?? "name";
  const filter = search.get("filter") ?? "";
  const { data, fetchNextPage, hasNextPage, isFetchingNextPage, error } = useInfiniteQuery(
    queries.customers(sort, filter),
  );
  const rows = data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useState(0);
  const navigate = useNavigate();
  useTitle("Customers");
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    if (value) {
      next.set(name, value);
    } else {
      next.delete(name);
    }
    setAt(0);
    setSearch(next, { replace: true });
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        (event.target instanceof HTMLElement &&
          event.target.closest("input, a, button, [role=combobox], .ant-select-dropdown, .ant-modal"))
      ) {
        return;
      }
      const row = rows[at];
      if (event.key === "j" || event.key === "ArrowDown") {
        event.preventDefault();
        setAt(Math.min(at + 1, rows.length - 1));
      } else if (event.key === "k" || event.key === "ArrowUp") {
        event.preventDefault();
        setAt(Math.max(at - 1, 0));
      } else if (event.key === "Enter" && row) {
        navigate(`/customers/${row.id}`);
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  });

  return (
    <div className="sheet alone customers">
      <div className="list-head">
        <div className="line">
          <h1>Customers</h1>
          <Link to="/imports">Import…</Link>
          <span className="small">
            <a href={`/api/customers/file?${search}&format=csv`} download>
              CSV
            </a>{" "}
            <a href={`/api/customers/file?${search}&format=xlsx`} download>
              XLSX
            </a>
          </span>
        </div>
        <div className="list-tools">
          <Input
            placeholder="Filter by name, street, mail…"
            aria-label="Filter the list"
            value={filter}
            allowClear
            onChange={(event) => set("filter", event.target.value)}
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
      <table className="lines customer-list">
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
      {data && rows.length === 0 && (
        <p className="pad soft">
          {filter
            ? "Nobody matches. Clear the filter to see all."
            : sort === "owed"
              ? "Nobody owes anything."
              : "No customer yet. Take the first call with / and the name."}
        </p>
      )}
      {hasNextPage && (
        <p className="pad">
          <Button loading={isFetchingNextPage} onClick={() => void fetchNextPage()}>
            More
          </Button>
        </p>
      )}
      {error && <p className="pad fault">{error.message}</p>}
    </div>
  );
}

function Row({ row, on }: { row: CustomerRow; on: boolean }) {
  const element = useRef<HTMLTableRowElement>(null);
  useEffect(() => {
    if (on) {
      element.current?.scrollIntoView({ block: "nearest" });
    }
  }, [on]);
  return (
    <tr ref={element} className={on ? "on" : undefined} aria-selected={on}>
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
