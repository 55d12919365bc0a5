import { Button } from "antd";
import { type RefObject, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";

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

/** j, k and the arrows move, Enter acts; other keys are the list's own. Whoever types is left alone. */
export function useListKeys(move: (by: number) => void, keys: Record<string, () => void>) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) {
        return;
      }
      const by = STEPS[event.key];
      // A key held down must not bill one job after the other.
      const acts = event.key !== "Enter" || !(event.repeat || isPressable(event.target));
      if (by) {
        event.preventDefault();
        move(by);
      } else if (acts && keys[event.key]) {
        event.preventDefault();
        keys[event.key]?.();
      }
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  });
}

const STEPS: Record<string, number> = { j: 1, ArrowDown: 1, k: -1, ArrowUp: -1 };

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest("input, textarea, select, [role=combobox], .ant-select-dropdown, .ant-modal") !== null;

const isPressable = (target: EventTarget | null) =>
  target instanceof HTMLButtonElement || target instanceof HTMLAnchorElement;

/** Keeps the row that is chosen in sight. */
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
