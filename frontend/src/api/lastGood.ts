import type { UseQueryResult } from "@tanstack/react-query";
import { useRef } from "react";

export interface LastGood<T> {
  /** The answer, or the last one about the same thing while there is no other. */
  data: T | undefined;
  /** It is an older answer: a new one is on its way, or could not be had. */
  old: boolean;
  /** A new answer is on its way. */
  busy: boolean;
}

/** The answer to what is asked now; until it comes, or where it fails, the last one about the same thing, marked as old.
 * An answer about another machine never stands in its place. */
export function useLastGood<T>(query: UseQueryResult<T>, about: string): LastGood<T> {
  const kept = useRef<{ about: string; data: T } | undefined>(undefined);
  if (query.data !== undefined) kept.current = { about, data: query.data };
  const before = kept.current?.about === about ? kept.current.data : undefined;
  const old = query.data === undefined;
  return {
    data: query.data ?? before,
    old: old && before !== undefined,
    busy: query.isFetching && old,
  };
}
