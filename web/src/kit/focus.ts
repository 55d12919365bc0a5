/** Marks an element that takes the focus when what had it inside has gone, such as a section's heading. */
export const HOME = { tabIndex: -1, "data-home": true } as const;

/** For so many frames after an act it is seen to that the focus is somewhere. */
const WATCHED = 30;

/** Puts the focus on a page's heading, or on its list where the list is what the page is. */
function focusPage() {
  document.querySelector<HTMLElement>("main h1")?.focus({ preventScroll: true });
}

/**
 * Remembers what has the focus. The answer, called once that may have gone, puts it back there, on whatever took its
 * name (its id), or on the nearest heading that is still there: never on nothing. A focus that somebody has moved
 * meanwhile stays.
 */
export function heldFocus(element: Element | null = document.activeElement): () => void {
  const homes: HTMLElement[] = [];
  for (let around = element?.parentElement; around; around = around.parentElement) {
    const home = around.querySelector<HTMLElement>("[data-home]");
    if (home) {
      homes.push(home);
    }
  }
  const lost = () => document.activeElement === null || document.activeElement === document.body;
  const restore = () => {
    const again = element instanceof HTMLElement ? takesFocus(element) : undefined;
    const home = again ?? homes.find((each) => each.isConnected);
    if (home) {
      home.focus({ preventScroll: true });
    } else {
      focusPage();
    }
  };
  return () => {
    // What had it may go only when the page is drawn with what was read anew, a few frames later.
    let frames = 0;
    const look = () => {
      if (lost()) {
        restore();
      }
      frames += 1;
      if (frames < WATCHED) {
        requestAnimationFrame(look);
      }
    };
    requestAnimationFrame(look);
  };
}

function takesFocus(element: HTMLElement): HTMLElement | undefined {
  const still = element.isConnected ? element : element.id && document.getElementById(element.id);
  return still && still !== document.body && !still.matches(":disabled") ? still : undefined;
}
