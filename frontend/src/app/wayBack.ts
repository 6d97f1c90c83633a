import { useLocation } from "react-router";

/** What leads to a record: the page that asked for it, and the field that the record lacks. It stands in the history's
 * entry, so that a reload keeps it and no address can name another site. */
export interface WayBack {
  back: string;
  field?: string;
}

/** Where one came from, where a question led here. */
export function useWayBack(): WayBack | null {
  const state = useLocation().state as Partial<WayBack> | null;
  return state?.back ? { back: state.back, field: state.field } : null;
}

/** The same page again, where the machine that was saved may have got another name. */
export function backTo({ back }: WayBack, was: string | undefined, now: string): string {
  return was ? back.replace(`/${was}?`, `/${now}?`) : back;
}
