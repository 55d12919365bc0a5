import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { Worklist, WorkRow } from "../api/generated/schema";
import { queries, SORTS } from "../api/queries";
import { money } from "../format";
import { useActs } from "../kit/Act";
import { Beside, besideStyles } from "../kit/Beside";
import { Heading } from "../kit/Heading";
import { askedFor, KeyedList, ListEnd, ListFiles, ListFilter, moved, useListSearch } from "../kit/KeyedList";
import { Select } from "../kit/Select";
import { WaitingSheet } from "../kit/Sheet";
import { useTitle } from "../kit/useTitle";
import { QuoteSheetView } from "../quoting/QuoteSheetView";
import { ReceiptSheet } from "../receipts/ReceiptSheet";
import { JobSheetView } from "../sheet/JobSheetView";
import { counted, type Stage } from "./MoneyLine";
import { address, Row } from "./WorklistRow";

const TITLES: Record<Stage, string> = {
  quoted: "Quoted, no answer yet",
  won: "Won, no time yet",
  booked: "Booked",
  worked: "Worked, not checked",
  checked: "Checked, not billed",
  billed: "Billed, money to come",
  paid: "Paid this month",
};

const EMPTY: Record<Stage, string> = {
  quoted: "No quote is out. Make one with “New quote” above.",
  won: "Every accepted quote has a time. New ones come from Quoted when the customer says yes.",
  booked: "No visit is planned. Give the jobs under Won a time.",
  worked: "Everything that was finished is checked.",
  checked: "Everything that was checked is billed.",
  billed: "Every invoice is paid.",
  paid: "No money has come in this month yet.",
};

/** A stage's list beside the sheet of the row that is chosen; keys move through it, Enter does what can be taken back. */
export default function WorklistPage({ stage }: { stage: Stage }) {
  const { row: chosen } = useParams();
  const [search, set] = useListSearch();
  const navigate = useNavigate();
  const sort = askedFor(SORTS, search.get("sort"));
  const filter = search.get("filter") ?? "";
  const technician = Number(search.get("technician")) || undefined;
  const list = useInfiniteQuery(queries.worklist(stage, sort, filter, technician));
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
  useTitle(data && rows.length === 0 ? TITLES[stage] : undefined);
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
    const to = moved(place(), by, rows.length);
    if (to > rows.length - 10 && list.hasNextPage && !list.isFetchingNextPage) {
      void list.fetchNextPage();
    }
    open(rows[to]);
  };
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);

  /** The row has left the stage: the one that takes its place is next. */
  const done = () => {
    const others = rows.filter((row) => row !== current);
    open(others[Math.min(place(), others.length - 1)]);
    keyed.current?.focus({ preventScroll: true });
  };

  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        label={TITLES[stage]}
        role={rows.length > 0 ? "listbox" : "group"}
        on={current && address(current)}
        move={move}
        enter={() => acts.run("Enter")}
        end={
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
        }
        head={
          <div className={besideStyles.head}>
            <Headline stage={stage} data={data} search={search} />
            <Tools sort={sort} filter={filter} technician={technician} set={set} />
          </div>
        }
      >
        {rows.map((row) => (
          <Row key={address(row)} row={row} on={row === current} open={() => open(row)} stage={stage} />
        ))}
      </KeyedList>
      <Chosen row={current} address={current ? undefined : chosen} done={done} />
    </Beside>
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
    <div className={besideStyles.line}>
      <Heading>{TITLES[stage]}</Heading>
      <span className="soft small" data-section="count">
        {data && `${counted(stage, data.count)}, ${money(data.amountMinor)}`}
      </span>
      {stage === "worked" && (
        <Link className="small" to="/check-desk">
          Check desk
        </Link>
      )}
      <ListFiles path={`/api/worklists/${stage}`} search={search} />
    </div>
  );
}

function Tools({
  sort,
  filter,
  technician,
  set,
}: {
  sort: string;
  filter: string;
  technician: number | undefined;
  set: (name: string, value: string) => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  return (
    <div className={besideStyles.tools}>
      <ListFilter value={filter} change={(typed) => set("filter", typed)} />
      <Select
        aria-label="Sort the list"
        value={sort}
        onChange={(value) => set("sort", value === "oldest" ? "" : value)}
        style={{ width: 104 }}
        options={SORTS.map((value) => ({
          value,
          label: `by ${value === "oldest" ? "age" : value}`,
        }))}
      />
      <Select
        aria-label="Whose work"
        value={technician ?? 0}
        onChange={(value) => set("technician", value === 0 ? "" : String(value))}
        popupMatchSelectWidth={false}
        style={{ width: 126 }}
        options={[
          { value: 0, label: "everybody" },
          ...(choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name })),
        ]}
      />
    </div>
  );
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
    return <WaitingSheet />;
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
  return charged === undefined ? <WaitingSheet /> : <JobSheetView id={charged} done={done} />;
}
