import { useEffect, useRef, useState } from "react";

/** Brings a card into sight when it is chosen; not when the list first stands. */
export function useInSight<T extends HTMLElement>(chosen: boolean) {
  const card = useRef<T>(null);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (chosen && shown) card.current?.scrollIntoView({ block: "nearest" });
    setShown(true);
  }, [chosen, shown]);
  return card;
}
