import { Button } from "antd";
import { type KeyboardEvent, type ReactNode, type RefObject, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";

/** What a list is filtered and sorted by, kept in the address; setting it to nothing takes it out again. */
export function useListSearch(): [URLSearchParams, (name: string, value: string) => void] {
  const [search, setSearch] = useSearchParams();
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(search);
    // A askedFor row belongs to the list as it was.
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

const STEPS: Record<string, number> = { j: 1, ArrowDown: 1, k: -1, ArrowUp: -1 };

/**
 * A list that is worked with keys while it has the focus, and only then: j, k and the arrows move, Enter acts, other
 * keys are the list's own. It takes the focus when it appears and nothing else has it, so that the first key works.
 */
export function KeyedList({
  label,
  role = "listbox",
  on,
  move,
  keys,
  className,
  list,
  children,
}: {
  label: string;
  role?: "listbox" | "group";
  /** The row that is askedFor, as it is marked by {@link rowId}. */
  on: string | undefined;
  move: (by: number) => void;
  keys: Record<string, () => void>;
  className?: string;
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
  const press = (event: KeyboardEvent<HTMLDivElement>) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) {
      return;
    }
    const by = STEPS[event.key];
    if (by) {
      event.preventDefault();
      move(by);
      // A key held down must not check one job after the other.
    } else if (keys[event.key] && !event.repeat) {
      event.preventDefault();
      keys[event.key]?.();
    }
  };
  return (
    // biome-ignore lint/a11y/useAriaPropsSupportedByRole: both roles have a label
    // biome-ignore lint/a11y/noStaticElementInteractions: it has one of two roles
    <div
      ref={element}
      className={className}
      role={role}
      aria-label={label}
      aria-activedescendant={on && role === "listbox" ? rowId(on) : undefined}
      tabIndex={0}
      onKeyDown={press}
    >
      {children}
    </div>
  );
}

/** The id of a row's element, by which the list says which one is askedFor. */
export const rowId = (row: string): string => `row-${row}`;

/** Keeps the row that is askedFor in sight. */
export function useKeptInSight<T extends HTMLElement>(on: boolean): RefObject<T | null> {
  const element = useRef<T>(null);
  useEffect(() => {
    if (on) {
      element.current?.scrollIntoView({ block: "nearest" });
    }
  }, [on]);
  return element;
}

/** The list as a file, just as it is filtered. */
export function ListFiles({ path, search }: { path: string; search: URLSearchParams }) {
  return (
    <span className="small">
      <a href={`${path}/file?${search}&format=csv`} download>
        CSV
      </a>{" "}
      <a href={`${path}/file?${search}&format=xlsx`} download>
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
