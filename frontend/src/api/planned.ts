/** What is common to all machines that trains are planned for: how they are asked, and what they answer. */
import { type UseMutationResult, useQuery, type UseQueryOptions } from "@tanstack/react-query";

import type { Drawing, Outline, Schemas, Units } from "./client";

/** A train that is looked at, of any machine: of one box or of several. */
export interface ShownTrain {
  train: string;
  goes_on: boolean;
  fits: boolean;
  is_on: boolean;
  sheet: Schemas["SheetOut"];
}

/** What a plan of any machine says. */
export interface Plan<C> {
  machine: string;
  ask: { canonical: string };
  candidates: { train: string }[];
  first: C | null;
  outlines: Outline[];
  shortfall: string | null;
}

/** What is asked. order, material: what else the address says, where the machine's question takes it. */
export interface StationAsk {
  machine: string;
  ask: string;
  order: Schemas["Order"];
  material: Schemas["BlankMaterial"];
}

/** What is put on, null for nothing. seen: what was on when that was decided; ask: what for. */
export interface MountRequest {
  train: string | null;
  seen: string;
  ask: string;
}

/** What is done with a wheel of a train: another put there, two swapped, an idler in or out. */
export type Change =
  | { change: "put"; at: number; teeth: number }
  | { change: "swap"; at: number; other: number }
  | { change: "idler"; at: number; teeth: number }
  | { change: "out"; at: number };

/** The train that comes of a change. */
export interface ChangeOutcome {
  candidate: { train: string; text: string; lead: string; error: string };
}

/** What a kind of machine asks of the server, and how its answers are read. C: a train that is looked at; P: a plan;
 * N: what is on the machine. */
export interface PlannedKind<P extends Plan<C>, C extends ShownTrain, N> {
  kind: string;
  plan: (request: StationAsk, units: Units) => UseQueryOptions<P>;
  train: (
    request: StationAsk,
    train: string,
    units: Units,
  ) => UseQueryOptions<{ candidate: C; outlines: Outline[] }>;
  now: (machine: string, units: Units) => UseQueryOptions<N | null>;
  useMount: (machine: string) => UseMutationResult<unknown, Error, MountRequest>;
  /** A wheel of a train changed by hand; undefined where wheels are not put by hand. */
  useChanged: (
    machine: string,
    ask: string,
    units: Units,
  ) => UseMutationResult<ChangeOutcome, Error, Change & { train: string }> | undefined;
  sheet: (request: StationAsk, train: string, units: Units) => string;
  /** Trains that the list shows beside the candidates. */
  beside: (plan: P) => ({ train: string } | null)[];
  /** What is on the machine as a plan, where it is one; it is shown while nothing is asked. */
  nowAsPlan?: (now: N) => P;
  /** Else the ask that it answers, and its trains: drawn while nothing is asked. Null where it answers none. */
  standing?: (now: N) => { ask: string; train: string } | null;
  /** A set-up as people write it. */
  trainText: (candidate: C) => string;
  /** What is recorded: `76/66 × 32/78 is on Plover`. */
  recorded: (candidate: C, name: string) => string;
  /** Lists are in order of trouble or of exactness, as one likes. */
  ordered: boolean;
}

/** What is on a machine now, as it is drawn: each train with its title, empty where there is one. undefined for a bare
 * machine, and while it is not known. */
export type OnNow = (
  machine: string,
  units: Units,
) => { drawn: { title: string; drawing: Drawing }[]; outlines: Outline[] } | undefined;

/** The same of a kind whose trains stand for an ask. drawn: the trains of what stands there. */
export function onNow<P extends Plan<C>, C extends ShownTrain, N>(
  kind: PlannedKind<P, C, N>,
  drawn: (one: C) => { title: string; drawing: Drawing }[],
): OnNow {
  return function useOnNow(machine, units) {
    const now = useQuery(kind.now(machine, units)).data;
    const standing = now ? kind.standing?.(now) : undefined;
    const request = {
      machine,
      ask: standing?.ask ?? "",
      order: "least_trouble",
      material: "mild_steel",
    } as const;
    const one = useQuery({
      ...kind.train(request, standing?.train ?? "", units),
      enabled: standing != null,
    }).data;
    return one && { drawn: drawn(one.candidate), outlines: one.outlines };
  };
}
