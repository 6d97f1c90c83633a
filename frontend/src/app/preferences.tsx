import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useState,
} from "react";

import type { Units } from "../api/client";
import { allowLetters } from "./keys";

interface Preferences {
  units: Units;
  setUnits: (units: Units) => void;
  night: boolean;
  setNight: (night: boolean) => void;
  /** Whether single letters do anything. */
  keys: boolean;
  setKeys: (on: boolean) => void;
  /** Whether single letters change what is on record. */
  keysWrite: boolean;
  setKeysWrite: (on: boolean) => void;
  /** Of whoever works at this device, for the log; empty where nobody said. */
  initials: string;
  setInitials: (initials: string) => void;
}

const Context = createContext<Preferences | null>(null);

/** What a person set once and keeps: units, day or night. Kept in this browser. */
export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [units, setUnits] = useKept<Units>(
    "units",
    "mm",
    (kept) => kept === "mm" || kept === "inch",
  );
  const [night, setNight] = useKept<boolean>(
    "night",
    matchMedia("(prefers-color-scheme: dark)").matches,
    isYesOrNo,
  );
  const [keys, setKeys] = useKept<boolean>("keys", true, isYesOrNo);
  const [keysWrite, setKeysWrite] = useKept<boolean>("keysWrite", true, isYesOrNo);
  const [initials, setInitials] = useKept<string>(
    "initials",
    "",
    (kept) => typeof kept === "string" && kept.length <= 12,
  );
  useEffect(() => allowLetters(keys, keysWrite), [keys, keysWrite]);
  useEffect(() => {
    document.documentElement.classList.toggle("night", night);
  }, [night]);
  const value = useMemo(
    () => ({
      units,
      setUnits,
      night,
      setNight,
      keys,
      setKeys,
      keysWrite,
      setKeysWrite,
      initials,
      setInitials,
    }),
    [
      units,
      night,
      keys,
      keysWrite,
      initials,
      setUnits,
      setNight,
      setKeys,
      setKeysWrite,
      setInitials,
    ],
  );
  return <Context value={value}>{children}</Context>;
}

export function usePreferences(): Preferences {
  const preferences = useContext(Context);
  if (!preferences) throw new Error("usePreferences stands outside its provider");
  return preferences;
}

const isYesOrNo = (kept: unknown) => typeof kept === "boolean";

/** A value kept in this browser, where it keeps anything; what is spoiled there is as if it were not. */
export function useKept<T>(name: string, start: T, usable: (kept: unknown) => boolean) {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept: unknown = JSON.parse(localStorage.getItem(`valleywind.${name}`) ?? "null");
      return usable(kept) ? (kept as T) : start;
    } catch {
      return start;
    }
  });
  const keep = useCallback(
    (next: T) => {
      try {
        localStorage.setItem(`valleywind.${name}`, JSON.stringify(next));
      } catch {
        // A browser that keeps nothing: it holds until the page is left.
      }
      setValue(next);
    },
    [name],
  );
  return [value, keep] as const;
}
