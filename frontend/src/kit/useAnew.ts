import { useState } from "react";

/** What is typed about something; about something else it is as usual again. */
export function useAnew<T>(about: string, usual: T): [T, (value: T) => void] {
  const [kept, keep] = useState({ about, value: usual });
  return [kept.about === about ? kept.value : usual, (value) => keep({ about, value })];
}
