import { useQuery } from "@tanstack/react-query";
import { Input } from "antd";
import { useState } from "react";
import { queries } from "../api/queries";
import { fullDay, hours, moneyOrDash } from "../format";
import { besideStyles } from "../kit/Beside";
import lines from "../kit/Lines.module.css";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";

const count = (number: number) => (number === 0 ? "–" : number);

/** What goes wrong, why, what was solved on the phone, and what the rest cost. */
export default function FaultsPage() {
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const { data, error } = useQuery(queries.faults(from, to));
  useTitle("Faults");
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label="Faults">
      <div className={besideStyles.head}>
        <div className={besideStyles.line}>
          <h1>Faults and their causes</h1>
          <span className="soft small">{data && `${fullDay(data.from)} to ${fullDay(data.to)}`}</span>
          <a
            className="small"
            href={`/api/figures/faults/file?${new URLSearchParams({ from, to })}`}
            download
          >
            CSV
          </a>
        </div>
        <div className={besideStyles.tools}>
          <Input
            aria-label="From"
            style={{ flex: "0 1 190px" }}
            placeholder="from: a year ago, 1 jan"
            value={from}
            onChange={(event) => setFrom(event.target.value)}
          />
          <Input
            aria-label="To"
            style={{ flex: "0 1 190px" }}
            placeholder="to: today"
            value={to}
            onChange={(event) => setTo(event.target.value)}
          />
        </div>
      </div>
      {error && <p className="pad fault">{error.message}</p>}
      <table className={`${lines.lines} ${lines.wide}`}>
        <thead>
          <tr>
            <th>Fault</th>
            <th>Cause</th>
            <th className="figure">calls</th>
            <th className="figure">solved on the phone</th>
            <th className="figure">jobs</th>
            <th className="figure">labour</th>
            <th className="figure">cost</th>
            <th className="figure">net</th>
          </tr>
        </thead>
        <tbody>
          {data?.rows.map((row, index) => (
            <tr key={`${row.fault} ${row.cause}`}>
              <td>{row.fault !== data.rows[index - 1]?.fault && row.fault}</td>
              <td className="soft">{row.cause ?? (row.jobs > 0 ? "not known yet" : "")}</td>
              <td className="figure">{count(row.calls)}</td>
              <td className="figure">{count(row.solved)}</td>
              <td className="figure">{count(row.jobs)}</td>
              <td className="figure">{row.labourMinutes > 0 ? hours(row.labourMinutes) : "–"}</td>
              <td className="figure">{moneyOrDash(row.costMinor)}</td>
              <td className="figure">{moneyOrDash(row.netMinor)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data?.rows.length === 0 && (
        <p className="pad soft">
          No call or job of these days has a fault code. Fault talks give them; a job's sheet takes them too.
        </p>
      )}
    </article>
  );
}
