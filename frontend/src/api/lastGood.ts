import type { UseQueryResult } from "@tanstack/react-query";
import { useState } from "react";

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
  const { data } = query;
  const [kept, keep] = useState<{ about: string; data: T }>();
  if (data !== undefined && (kept?.data !== data || kept.about !== about)) keep({ about, data });
  const before = kept?.about === about ? kept.data : undefined;
  const old = data === undefined;
  return {
    data: data ?? before,
    old: old && before !== undefined,
    busy: query.isFetching && old,
  };
}
