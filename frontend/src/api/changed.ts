import type { QueryClient } from "@tanstack/react-query";

/** Asks again whatever was asked under these keys. What is still on its way was answered before the change: it is let go. */
export async function changed(client: QueryClient, ...keys: string[]): Promise<void> {
  await Promise.all(
    keys.map(async (key) => {
      await client.cancelQueries({ queryKey: [key] });
      await client.invalidateQueries({ queryKey: [key] });
    }),
  );
}

/** Asks again whatever hangs on the machines and their wheels. */
export function changedShop(client: QueryClient): Promise<void> {
  return changed(client, "rack", "machines", "sources", "wheels", "dividing");
}
