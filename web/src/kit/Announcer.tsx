import { useEffect, useRef } from "react";
import styles from "./Announcer.module.css";
import { say, useSaid } from "./useSaid";

/** So long what was done stays on the page while nothing points at it; a refusal of the whole stays until it is put away. */
const SHOWN = 9_000;

/** What was done or refused last, with its way back, on every page: a polite live region that everybody sees. */
export function Announcer() {
  const said = useSaid();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!said || (said.refused && !said.atFields)) {
      return;
    }
    const timer = setInterval(() => {
      if (!box.current?.matches(":hover, :focus-within")) {
        say(undefined);
      }
    }, SHOWN);
    return () => clearInterval(timer);
  }, [said]);
  return (
    <div className={styles.place} ref={box} role="status" aria-live="polite">
      {said && (
        <div key={said.at} className={said.refused ? styles.refused : styles.done}>
          <span>{said.text}</span>
          {said.undo && (
            <button
              type="button"
              className={styles.undo}
              onClick={() => {
                said.undo?.run();
                say(undefined);
              }}
            >
              {said.undo.label}
            </button>
          )}
          <button
            type="button"
            className={styles.away}
            aria-label="Put this message away"
            onClick={() => say(undefined)}
          >
            ×
          </button>
        </div>
      )}
    </div>
  );
}
