import { useEffect } from "react";

import { Shared } from "../api/shared";
import { useAddress } from "./address";

/** What the search begins with; null while it is not open. */
export const searched = new Shared<string | null>(null);

/** Open the search. */
export function search() {
  searched.set("");
}

/** The record that a search led to, by its number in the address: `take` is told of it once, when the page is ready. */
export function useSearchResult(name: string, ready: boolean, take: (id: number) => void) {
  const [address, put] = useAddress();
  const id = Number(address.get(name)) || null;
  useEffect(() => {
    if (id === null || !ready) return;
    take(id);
    put({ [name]: "" });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only that it stands in the address sets this off
  }, [id, ready]);
}
