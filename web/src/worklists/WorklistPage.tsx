import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Input, Select } from "antd";
import { useEffect, useRef } from "react";
import { useNavigate, useParams } from "react-router";
import type { StageTotal, Worklist, WorkRow } from "../api/generated/schema";
import { queries, SORTS } from "../api/queries";
import { day, money, percent, timeLeft, words } from "../format";
import { askedFor, KeyedList, ListEnd, ListFiles, rowId, useKeptInSight, useListSearch } from "../lists/list";
import { QuoteSheetView } from "../quoting/QuoteSheetView";
import { ReceiptSheet } from "../receipts/ReceiptSheet";
import { JobSheetView } from "../sheet/JobSheetView";
import { counted } from "./MoneyLine";
import { SmallLadder } from "./SmallLadder";

const TITLES: Record<string, string> = {
  quoted: "Quoted, no answer yet",
  won: "Won, no time yet",
  booked: "Booked",
  worked: "Worked, not checked",
  checked: "Checked, not billed",
  billed: "Billed, money to come",
  paid: "Paid this month",
};

const EMPTY: Record<string, string> = {
  quoted: "No quote is out. Make one with “New quote” above.",
  won: "Every accepted quote has a time. New ones come from Quoted when the customer says yes.",
  booked: "No visit is planned. Give the jobs under Won a time.",
  worked: "Everything that was finished is checked.",
  checked: "Everything that was checked is billed.",
  billed: "Every invoice is paid.",
  paid: "No money has come in this month yet.",
};

type Stage = StageTotal["stage"];

/** A stage's list beside the sheet of the row that is chosen; j, k and the arrows move, Enter does what can be taken back. */
export default function WorklistPage({ stage }: { stage: Stage }) {
  const { row: chosen } = useParams();
  const [search, set] = useListSearch();
  const navigate = useNavigate();
  const sort = askedFor(SORTS, search.get("sort"));
  const filter = search.get("filter") ?? "";
  const technician = Number(search.get("technician")) || undefined;
  const list = useInfiniteQuery(queries.worklist(stage, sort, filter, technician));
  const { data: choices } = useQuery(queries.choices);
  const data = list.data?.pages[0];
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const index = rows.findIndex((row) => address(row) === chosen);
  const current = index >= 0 ? rows[index] : chosen ? undefined : rows[0];
  // Where the chosen row stood last: when it has left the stage, the one that took its place is next.
  const stood = useRef(0);
  useEffect(() => {
    if (index >= 0) {
      stood.current = index;
    }
  }, [index]);
  // Keys come faster than pages are drawn, so the address bar is asked and not the page.
  const place = () => {
    const shown = rows.findIndex((row) => address(row) === window.location.pathname.split("/")[2]);
    return shown >= 0 ? shown : stood.current;
  };

  const open = (row: WorkRow | undefined) =>
    navigate(
      { pathname: row ? `/${stage}/${address(row)}` : `/${stage}`, search: search.toString() },
      { replace: true },
    );
  const move = (by: number) => {
    const to = Math.min(Math.max(place() + by, 0), rows.length - 1);
    if (to > rows.length - 10 && list.hasNextPage && !list.isFetchingNextPage) {
      void list.fetchNextPage();
    }
    open(rows[to]);
  };
  const page = useRef<HTMLDivElement>(null);
  const keyed = useRef<HTMLDivElement>(null);
  const press = (mark: string) => page.current?.querySelector<HTMLButtonElement>(`[${mark}]`)?.click();

  /** The row has left the stage: the one that takes its place is next. */
  const done = () => {
    const others = rows.filter((row) => row !== current);
    open(others[Math.min(place(), others.length - 1)]);
    keyed.current?.focus({ preventScroll: true });
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what goes into the books for good wants two keys, here or in the sheet
    <div
      ref={page}
      className="beside"
      onKeyDown={(event) => {
        if (event.key === "Enter" && event.ctrlKey && !event.repeat) {
          event.preventDefault();
          press("data-for-good");
        }
      }}
    >
      <section className="list" aria-label={TITLES[stage]}>
        <div className="list-head">
          <Headline stage={stage} data={data} search={search} />
          <div className="list-tools">
            <Input
              placeholder="Filter"
              aria-label="Filter the list"
              value={filter}
              allowClear
              onChange={(event) => set("filter", event.target.value)}
            />
            <Select
              aria-label="Sort the list"
              value={sort}
              onChange={(value) => set("sort", value === "oldest" ? "" : value)}
              options={SORTS.map((value) => ({
                value,
                label: `by ${value === "oldest" ? "age" : value}`,
              }))}
            />
            <Select
              aria-label="Technician"
              value={technician ?? 0}
              onChange={(value) => set("technician", value === 0 ? "" : String(value))}
              popupMatchSelectWidth={false}
              options={[
                { value: 0, label: "everybody" },
                ...(choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name })),
              ]}
            />
          </div>
        </div>
        <KeyedList
          list={keyed}
          className="rows"
          label={TITLES[stage] ?? stage}
          role={rows.length > 0 ? "listbox" : "group"}
          on={current && address(current)}
          move={move}
          keys={{ Enter: () => press("data-primary") }}
        >
          {rows.map((row) => (
            <Row key={address(row)} row={row} on={row === current} open={() => open(row)} stage={stage} />
          ))}
          <ListEnd
            list={list}
            none={
              data && rows.length === 0
                ? filter || technician
                  ? "Nothing matches. Clear the filter to see all."
                  : EMPTY[stage]
                : undefined
            }
            more={data && `${data.count - rows.length} more`}
          />
        </KeyedList>
      </section>
      <Chosen row={current} address={current ? undefined : chosen} done={done} />
    </div>
  );
}

function Headline({
  stage,
  data,
  search,
}: {
  stage: Stage;
  data: Worklist | undefined;
  search: URLSearchParams;
}) {
  return (
    <div className="line">
      <h2>{TITLES[stage]}</h2>
      <span className="soft small">
        {data && `${counted(stage, data.count)}, ${money(data.amountMinor)}`}
      </span>
      <ListFiles path={`/api/worklists/${stage}`} search={search} />
    </div>
  );
}

function Row({ row, on, open, stage }: { row: WorkRow; on: boolean; open: () => void; stage: Stage }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const loss = (row.marginPercent ?? 0) < 0;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(address(row))}
      className={on ? "row on" : "row"}
      role="option"
      aria-selected={on}
      onClick={open}
      data-row={address(row)}
    >
      <span className="number">{row.number}</span>
      <span style={{ minWidth: 0 }}>
        <div className="who">{row.customer}</div>
        <div className="what">{row.title || words(row.remark)}</div>
      </span>
      <SmallLadder rungs={row.rungs} />
      <span className="figure">
        <div className={loss && stage !== "paid" ? "share needs" : "share"}>
          {stage === "paid" ? money(row.valueMinor) : percent(row.marginPercent, 0)}
        </div>
        {row.response && stage !== "quoted" ? (
          <div className={row.response.late ? "when needs" : "when"}>
            {timeLeft(row.response.minutesLeft)}
          </div>
        ) : (
          <div className={row.stuck ? "when needs" : "when"}>{when(row, stage)}</div>
        )}
      </span>
    </div>
  );
}

function when(row: WorkRow, stage: string): string {
  if (stage === "billed") {
    return row.ageDays > 0 ? `${row.ageDays} d late` : `due ${day(row.day)}`;
  }
  if (row.remark === "no_job_yet") {
    return words(row.remark);
  }
  if (stage === "quoted" || stage === "won") {
    return row.remark === "sent" || row.remark === "no_time_yet"
      ? day(row.day)
      : `${words(row.remark)}, ${day(row.day)}`;
  }
  return day(row.day);
}

function Chosen({
  row,
  address: typed,
  done,
}: {
  row: WorkRow | undefined;
  address: string | undefined;
  done: () => void;
}) {
  const [typedKind, typedId] = (typed ?? "").split("-");
  const kind = row?.kind ?? (typedKind as WorkRow["kind"]);
  const id = row?.id ?? Number(typedId);
  if (!Number.isFinite(id)) {
    return <div className="sheet" />;
  }
  if (kind === "invoice") {
    return <InvoiceSheet key={`invoice-${id}`} id={id} jobId={row?.jobId ?? undefined} done={done} />;
  }
  // Money is told of on the sheet of what it is for.
  const jobId = kind === "receipt" ? row?.jobId : kind === "job" ? id : undefined;
  const quoteId = kind === "receipt" ? row?.quoteId : kind === "quote" ? id : undefined;
  if (jobId != null) {
    return <JobSheetView key={`job-${jobId}`} id={jobId} done={done} />;
  }
  if (quoteId != null) {
    return <QuoteSheetView key={`quote-${quoteId}`} id={quoteId} done={done} />;
  }
  return <ReceiptSheet key={`receipt-${id}`} id={id} />;
}

/** An invoice is told of on the sheet of its job, also once it is paid and on the list no more. */
function InvoiceSheet({ id, jobId, done }: { id: number; jobId: number | undefined; done: () => void }) {
  const { data } = useQuery(queries.invoice(id));
  const charged = jobId ?? data?.row.jobs[0]?.id;
  return charged === undefined ? <div className="sheet" /> : <JobSheetView id={charged} done={done} />;
}

const address = (row: WorkRow) => `${row.kind}-${row.id}`;
