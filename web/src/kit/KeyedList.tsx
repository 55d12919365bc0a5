import { Button, Input } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";
import { bareKeys } from "./useKeys";

/** What a list is filtered and sorted by, kept in the address; setting it to nothing takes it out again. */
export function useListSearch(): [URLSearchParams, (name: string, value: string) => void] {
  const [search, setSearch] = useSearchParams();
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    // A chosen row belongs to the list as it was.
    next.delete("at");
    if (value) {
      next.set(name, value);
    } else {
      next.delete(name);
    }
    setSearch(next, { replace: true });
  };
  return [search, set];
}

/** How far each key moves; the letters only where bare keys act. */
const STEPS: Record<string, number> = {
  ArrowDown: 1,
  ArrowUp: -1,
  PageDown: 10,
  PageUp: -10,
  Home: Number.NEGATIVE_INFINITY,
  End: Number.POSITIVE_INFINITY,
};
const LETTERS: Record<string, number> = { j: 1, k: -1 };

/**
 * A list that is worked with keys while it or its heading has the focus, and only then: the arrows, j and k, Page up
 * and down, Home and End move, Enter in the list acts. A screen reader follows the row that is on. It takes the focus
 * when it appears and nothing else has it, so that the first key works.
 */
export function KeyedList({
  label,
  role = "listbox",
  on,
  move,
  enter,
  head,
  end,
  className,
  rowsClass,
  list,
  children,
}: {
  label: string;
  role?: "listbox" | "group";
  /** The row that is on, as it is marked by {@link rowId}. */
  on: string | undefined;
  /** By how many rows; without end for the first and the last. */
  move: (by: number) => void;
  enter: () => void;
  /** What stands above the rows, with the list's heading in it. */
  head?: ReactNode;
  /** What stands below the last row. */
  end?: ReactNode;
  className?: string;
  rowsClass?: string;
  list?: RefObject<HTMLDivElement | null>;
  children: ReactNode;
}) {
  const own = useRef<HTMLDivElement>(null);
  const element = list ?? own;
  useEffect(() => {
    if (document.activeElement === document.body) {
      element.current?.focus({ preventScroll: true });
    }
  }, [element]);
  const press = (event: KeyboardEvent<HTMLElement>) => {
    const inList = event.target === element.current;
    const onHeading = event.target instanceof HTMLElement && event.target.dataset.home !== undefined;
    if (!(inList || onHeading) || event.ctrlKey || event.metaKey || event.altKey) {
      return;
    }
    const by = STEPS[event.key] ?? (bareKeys() ? LETTERS[event.key] : undefined);
    if (by !== undefined) {
      event.preventDefault();
      element.current?.focus({ preventScroll: true });
      move(by);
      // A key held down must not check one job after the other.
    } else if (inList && event.key === "Enter" && !event.repeat) {
      event.preventDefault();
      enter();
    }
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the heading and the list within share their keys
    <div className={className} onKeyDown={press}>
      {head}
      <div className={rowsClass}>
        {/* biome-ignore lint/a11y/useAriaPropsSupportedByRole: both roles have a label */}
        <div
          ref={element}
          role={role}
          aria-label={label}
          aria-activedescendant={on && role === "listbox" ? rowId(on) : undefined}
          tabIndex={0}
        >
          {children}
        </div>
        {end}
      </div>
    </div>
  );
}

/** Where a move ends that begins at a place: within the list, the last row at most. */
export const moved = (place: number, by: number, rows: number): number =>
  Math.max(Math.min(place + by, rows - 1), 0);

/** The id of a row's element, by which the list says which one is on. */
export const rowId = (row: string): string => `row-${row}`;

/** Keeps the row that is on in sight. */
export function useKeptInSight<T extends HTMLElement>(on: boolean): RefObject<T | null> {
  const element = useRef<T>(null);
  useEffect(() => {
    if (on) {
      element.current?.scrollIntoView({ block: "nearest" });
    }
  }, [on]);
  return element;
}

/** What the list is filtered by, as it is typed. */
export const ListFilter = ({
  value,
  change,
  placeholder = "Filter",
}: {
  value: string;
  change: (typed: string) => void;
  placeholder?: string;
}) => (
  <Input
    placeholder={placeholder}
    aria-label="Filter the list"
    value={value}
    allowClear
    onChange={(event) => change(event.target.value)}
  />
);

/** The list as a file, just as it is filtered. */
export function ListFiles({ path, search }: { path: string; search: URLSearchParams }) {
  return (
    <span className="small">
      <a href={`${path}/file?${search}&format=csv`} download aria-label="CSV file of this list">
        CSV
      </a>{" "}
      <a href={`${path}/file?${search}&format=xlsx`} download aria-label="XLSX file of this list">
        XLSX
      </a>
    </span>
  );
}

/** What stands below the last row: how to get more of them, why there are none, or what went wrong. */
export function ListEnd({
  list,
  none,
  more = "More",
}: {
  list: {
    hasNextPage: boolean;
    isFetchingNextPage: boolean;
    fetchNextPage: () => unknown;
    error: Error | null;
  };
  none: string | undefined;
  more?: string;
}) {
  return (
    <>
      {none && <p className="pad soft">{none}</p>}
      {list.hasNextPage && (
        <p className="pad">
          <Button loading={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
            {more}
          </Button>
        </p>
      )}
      {list.error && <p className="pad fault">{list.error.message}</p>}
    </>
  );
}

/** What an address asks for, or the usual first one where it asks for nothing that there is. */
export const askedFor = <T extends string>(choices: readonly [T, ...T[]], asked: string | null): T =>
  choices.find((choice) => choice === asked) ?? choices[0];
