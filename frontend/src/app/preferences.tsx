import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from "react";

import type { Units } from "../api/client";

interface Preferences {
  units: Units;
  setUnits: (units: Units) => void;
  night: boolean;
  setNight: (night: boolean) => void;
}

const Context = createContext<Preferences | null>(null);

/** What a person set once and keeps: units, day or night. Kept in this browser. */
export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [units, setUnits] = useKept<Units>("units", "mm");
  const [night, setNight] = useKept<boolean>("night", matchMedia("(prefers-color-scheme: dark)").matches);
  useEffect(() => {
    document.documentElement.classList.toggle("night", night);
  }, [night]);
  const value = useMemo(() => ({ units, setUnits, night, setNight }), [units, night, setUnits, setNight]);
  return <Context value={value}>{children}</Context>;
}

export function usePreferences(): Preferences {
  const found = useContext(Context);
  if (!found) throw new Error("usePreferences stands outside its provider");
  return found;
}

function useKept<T>(name: string, start: T) {
  const [value, setValue] = useState<T>(() => {
    const kept = localStorage.getItem(`valleywind.${name}`);
    return kept === null ? start : (JSON.parse(kept) as T);
  });
  const keep = (next: T) => {
    localStorage.setItem(`valleywind.${name}`, JSON.stringify(next));
    setValue(next);
  };
  return [value, keep] as const;
}
