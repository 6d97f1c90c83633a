import { useCallback, useEffect, useRef, useState } from "react";

// ms between two readings of something that turns, and for how long it is told after it came to rest.
const READING = 40;
const AT_REST = 1500;

/** Something that goes where it is turned to, no faster than `fastest` in a reading, and is read all the while.
 * `read` is given where it is and how many ms it has stood still. */
export function useGoal(fastest: number, read: (at: number, still: number) => void) {
  const goal = useRef(0);
  const at = useRef(0);
  const moved = useRef(0);
  const [shown, setShown] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => {
      const way = goal.current - at.current;
      const step = Math.sign(way) * Math.min(Math.abs(way), fastest);
      if (step) {
        at.current += step;
        moved.current = performance.now();
        setShown(at.current);
      }
      const still = performance.now() - moved.current;
      if (still < AT_REST || !moved.current) {
        moved.current ||= performance.now();
        read(at.current, still);
      }
    }, READING);
    return () => clearInterval(timer);
  }, [fastest, read]);
  const to = useCallback((next: number) => {
    goal.current = next;
  }, []);
  const by = useCallback((more: number) => {
    goal.current += more;
  }, []);
  const where = useCallback(() => goal.current, []);
  return { at: shown, to, by, where };
}
