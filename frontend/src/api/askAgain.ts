import type { QueryClient } from "@tanstack/react-query";

/** Ask again after something was heard; once more where the first answer was on its way by then, for it may be older. */
export async function askAgain(client: QueryClient, queryKey: unknown[]) {
  const first = client
    .getQueryCache()
    .findAll({ queryKey })
    .some(({ state }) => state.fetchStatus === "fetching" && state.data === undefined);
  await client.invalidateQueries({ queryKey });
  if (first) await client.invalidateQueries({ queryKey });
}
