import { useEffect, useState } from "react";

/** A value once it has stood still for `pause` ms. */
export function useDebouncedValue<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}
