import { type ReactNode, useEffect, useRef } from "react";
import styles from "./Shell.module.css";

/** The frame of every office page: where one can go above, the work below, which a key's press skips to. */
export function Shell({
  name,
  find,
  places,
  person,
  strip,
  page,
  children,
}: {
  /** The program's name, as it leads home. */
  name: ReactNode;
  /** The one field. */
  find: ReactNode;
  places: ReactNode;
  /** Today, and who is signed in. */
  person: ReactNode;
  /** What stands below it on every page. */
  strip: ReactNode;
  /** Which page is shown; the rows of one list are one page. */
  page: string;
  children: ReactNode;
}) {
  useFocusOnNewPage(page);
  return (
    <div className={styles.shell}>
      <a className={styles.skip} href="#work">
        To the work
      </a>
      <header className={styles.top}>
        <span className={styles.name}>{name}</span>
        {find}
        <nav className={styles.places} aria-label="Places">
          {places}
        </nav>
        <span className={styles.person}>{person}</span>
      </header>
      {strip}
      <main id="work" tabIndex={-1} className={styles.work}>
        {children}
      </main>
    </div>
  );
}

/** Whoever goes to another page is read its heading, as soon as it is there. */
function useFocusOnNewPage(page: string) {
  const shown = useRef(page);
  useEffect(() => {
    if (shown.current === page) {
      return;
    }
    shown.current = page;
    // The page may still have to be read: its heading is waited for, unless somebody goes on before it is there.
    const left = document.activeElement;
    const settle = () => {
      const heading = document.querySelector<HTMLElement>("main h1");
      const active = document.activeElement;
      // A field of the page that asks to be typed in at once keeps it.
      const asked = active?.closest("main") && active.matches("input, textarea, [role=combobox]");
      const free = active === document.body || (active === left && !asked);
      if (heading && free) {
        heading.tabIndex = -1;
        heading.focus({ preventScroll: true });
      }
      return heading !== null || !free;
    };
    if (settle()) {
      return;
    }
    const watch = new MutationObserver(() => settle() && watch.disconnect());
    watch.observe(document.body, { childList: true, subtree: true });
    return () => watch.disconnect();
  }, [page]);
}
