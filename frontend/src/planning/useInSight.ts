import { useEffect, useRef } from "react";

/** Brings a card into sight when it is chosen; not when the list first stands. */
export function useInSight<T extends HTMLElement>(chosen: boolean) {
  const card = useRef<T>(null);
  const was = useRef(chosen);
  useEffect(() => {
    if (chosen && !was.current) card.current?.scrollIntoView({ block: "nearest" });
    was.current = chosen;
  }, [chosen]);
  return card;
}
