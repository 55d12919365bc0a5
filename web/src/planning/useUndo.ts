import { useRef, useState } from "react";

/** How many steps can be taken back. */
const MOST = 20;

/**
 * What was done, newest last, each with how it is put back. A step whose visit somebody else has changed since is
 * refused by the server, for their change stands; it is forgotten then.
 */
export function useUndo() {
  const steps = useRef<(() => void)[]>([]);
  const [count, setCount] = useState(0);
  const keep = (back: () => void) => {
    steps.current = [...steps.current.slice(1 - MOST), back];
    setCount(steps.current.length);
  };
  const undo = () => {
    const back = steps.current.pop();
    setCount(steps.current.length);
    back?.();
  };
  return { count, keep, undo };
}
