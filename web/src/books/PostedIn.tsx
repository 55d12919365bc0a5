import type { BooksEntry } from "../api/generated/schema";

/** Which entries of a sheet's journal post something of it, each a link to where it stands below. */
export function PostedIn({
  journal,
  kind,
  id,
}: {
  journal: BooksEntry[];
  kind: BooksEntry["source"]["kind"];
  id: number;
}) {
  const entries = journal.filter(({ source }) => source.kind === kind && source.id === id);
  return entries.length === 0 ? null : (
    <span className="small soft">
      {entries.length === 1 ? "entry" : "entries"}{" "}
      {entries.map(({ number }, at) => (
        <span key={number}>
          {at > 0 && ", "}
          <a href={`#entry-${number}`}>{number}</a>
        </span>
      ))}
    </span>
  );
}
