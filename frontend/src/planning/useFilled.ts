import { useEffect, useRef, useState } from "react";

/**
 * Fields that are filled from an ask, and anew when another ask is answered. What is typed while the answer to the
 * fields themselves is on its way stays: a late answer takes nothing back.
 */
export function useFilled<T>(start: T, canonical: string, reset: () => void) {
  const [typed, setTyped] = useState(start);
  const since = useRef(false);
  const sent = useRef("");
  const key = JSON.stringify(start);
  useEffect(() => {
    if (since.current && canonical === sent.current) return;
    since.current = false;
    setTyped(JSON.parse(key) as T);
    reset();
  }, [key, canonical, reset]);
  return {
    typed,
    put: (changes: Partial<T>) => {
      since.current = true;
      setTyped((now) => ({ ...now, ...changes }));
    },
    /** The fields are sent: what is typed from now on is of the next ask. */
    send: () => {
      since.current = false;
    },
    /** They make this ask. */
    make: (ask: string) => {
      sent.current = ask;
    },
  };
}
