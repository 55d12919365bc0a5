import { Button } from "antd";
import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from "react";

/** Enter where it can be taken back, Control+Enter where it goes into the books for good. */
type ActKey = "Enter" | "Control+Enter";

type Acts = {
  /** What the sheet now offers by that key; the answer takes it away again. */
  offer: (key: ActKey, run: () => void) => () => void;
  /** Does what is offered by that key, if anything is. */
  run: (key: ActKey) => void;
};

const Offered = createContext<Acts | undefined>(undefined);

/** Whether the sheet stands beside a list, whose Enter acts on it. */
const BesideList = createContext(false);

/** What the sheet below offers by keys; the list beside it acts with them. */
export function useActs(): Acts {
  const offered = useRef<Partial<Record<ActKey, () => void>>>({});
  return useMemo(
    () => ({
      offer: (key, run) => {
        offered.current[key] = run;
        return () => {
          if (offered.current[key] === run) {
            delete offered.current[key];
          }
        };
      },
      run: (key) => offered.current[key]?.(),
    }),
    [],
  );
}

/**
 * Where the keys of acts hold: in a list and the sheet beside it, or in a sheet that stands alone. Control+Enter acts
 * from anywhere within; Enter only from the list itself.
 */
export function ActsOf({
  acts,
  className,
  children,
}: {
  acts?: Acts;
  className?: string;
  children: ReactNode;
}) {
  const around = useContext(Offered);
  const own = useActs();
  if (around) {
    return children;
  }
  const used = acts ?? own;
  return (
    <Offered value={used}>
      <BesideList value={acts !== undefined}>
        {/* biome-ignore lint/a11y/noStaticElementInteractions: it has no role of its own, only a key that holds within */}
        <div
          className={className}
          style={className ? undefined : { display: "contents" }}
          onKeyDown={(event) => {
            if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && !event.repeat) {
              event.preventDefault();
              used.run("Control+Enter");
            }
          }}
        >
          {children}
        </div>
      </BesideList>
    </Offered>
  );
}

/** Offers something by a key while it is shown, in the list beside it or within the sheet. */
export function useOffer(by: ActKey, run: () => void, disabled?: boolean) {
  const acts = useContext(Offered);
  const latest = useRef(run);
  latest.current = run;
  useEffect(() => (disabled ? undefined : acts?.offer(by, () => latest.current())), [acts, by, disabled]);
}

/** The one thing to do next with what the sheet shows, by its button or by its key. */
export function Act({
  by,
  run,
  running,
  disabled,
  children,
}: {
  by: ActKey;
  run: () => void;
  running: boolean;
  disabled?: boolean;
  children: ReactNode;
}) {
  const inList = useContext(BesideList);
  useOffer(by, run, disabled);
  const keyed = by === "Control+Enter" || inList;
  return (
    <Button
      type="primary"
      loading={running}
      disabled={disabled}
      onClick={run}
      aria-keyshortcuts={keyed ? by : undefined}
    >
      {children} {keyed && <span aria-hidden="true">{by === "Enter" ? "⏎" : "Ctrl ⏎"}</span>}
    </Button>
  );
}
