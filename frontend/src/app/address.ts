import { useSearchParams } from "react-router";

/** What a station keeps in the address, and how some of it is changed; what is empty is left out of it. */
export function useAddress(): [URLSearchParams, (changes: Record<string, string>) => void] {
  const [search, setSearch] = useSearchParams();
  const put = (changes: Record<string, string>) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [name, value] of Object.entries(changes)) {
          if (value) next.set(name, value);
          else next.delete(name);
        }
        return next;
      },
      { replace: true },
    );
  return [search, put];
}
