/** Who may come in from the network. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answered, api, type Schemas } from "./client";

export type EntryState = Schemas["EntryOut"];
const KEY = ["entry"];

export function useEntry() {
  return useQuery({ queryKey: KEY, queryFn: () => answered(api.GET("/api/entry")) });
}

/** A code for another device: of a page alone, or with an invitation that signs it in. */
export function useCode(path: string, invitation: { looks_only: boolean } | null, wanted: boolean) {
  return useQuery({
    queryKey: ["entry", "code", path, invitation],
    queryFn: async (): Promise<Schemas["CodeOut"]> =>
      invitation
        ? answered(api.POST("/api/entry/invitations", { body: { ...invitation, onward: path } }))
        : answered(api.GET("/api/entry/code", { params: { query: { path } } })),
    enabled: wanted,
    // An invitation serves once: each look makes another.
    gcTime: 0,
    staleTime: Infinity,
  });
}

function useThen<T>(work: (value: T) => Promise<EntryState>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: work,
    onSuccess: (now) => client.setQueryData<EntryState>(KEY, now),
  });
}

export function useSetPassphrase() {
  return useThen((body: Schemas["PassphraseIn"]) =>
    answered(api.PUT("/api/entry/passphrase", { body })),
  );
}

/** Sign other devices out. */
export function useEndGuests() {
  return useThen((keys: string[]) => answered(api.POST("/api/entry/end", { body: { keys } })));
}

/** Sign this device out. */
export function useSignOut() {
  return useMutation({ mutationFn: () => answered(api.POST("/api/entry/sign-out")) });
}
