import { useEffect, useState } from "react";

/** A value once it has stood still for `pause` ms. */
export function useDebouncedValue<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    // An object that says the same is the same: it would set this off for ever.
    const settle = (now: T) => (JSON.stringify(now) === JSON.stringify(value) ? now : value);
    const timer = setTimeout(() => setSettled(settle), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
