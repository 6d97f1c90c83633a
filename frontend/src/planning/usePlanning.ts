/** The state of a station that plans trains, for whatever machine: what the address asks, what comes of it. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";

import type { Schemas } from "../api/client";
import { useLastGood } from "../api/lastGood";
import { useMachines, useShelf } from "../api/machines";
import type { StationAsk, ShownTrain, Plan, PlannedKind } from "../api/planned";
import { useAddress } from "../app/address";
import { useKey } from "../app/keys";
import { usePreferences } from "../app/preferences";
import { useOutlines, usePut, useRecord, useSheetKeys, useSuspectedSlip } from "./stationHooks";

/** S: what a slip that may explain a reading is shown as. */
export function usePlanning<P extends Plan<C>, C extends ShownTrain, N, S>(
  of: PlannedKind<P, C, N>,
) {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, set] = useAddress();
  const request: StationAsk = {
    machine,
    ask: search.get("ask") ?? "",
    order: search.get("order") === "most_exact" ? "most_exact" : "least_trouble",
    material: (search.get("material") ?? "mild_steel") as StationAsk["material"],
  };
  const { ask } = request;
  const now = useQuery({ ...of.now(machine, units), enabled: ask === "" });
  // While nothing is asked, what is on the machine is looked at.
  const standing = (ask === "" && now.data && of.standing?.(now.data)) || undefined;
  const planned = standing?.ask ?? ask;
  const plan = useQuery({
    ...of.plan({ ...request, ask: planned }, units),
    enabled: planned.trim() !== "",
  });
  const shelf = useShelf(machine);
  const machines = useMachines();
  const row = machines.data?.find((m) => m.slug === machine);
  const name = row?.name ?? machine;

  // What is on the machine is no answer to an ask; nor is what was asked of another machine.
  const answer = useLastGood(plan, `${machine} ${units} ${standing ? "on it" : "asked"}`);
  const stands = now.data ? of.nowAsPlan?.(now.data) : undefined;
  const shown = planned ? answer.data : stands;
  const wanted = search.get("train") ?? standing?.train ?? null;
  const line = ask || shown?.ask.canonical || "";
  // The plan brings everything about its first train; about any other it is asked for.
  const other = shown !== undefined && wanted !== null && shown.first?.train !== wanted;
  const own = useQuery({
    ...of.train({ ...request, ask: line }, wanted ?? "", units),
    enabled: other,
  });
  const ownTrain = other ? own.data : undefined;
  // A train that cannot be shown is not replaced by another: nothing is shown under a name that is not its own.
  const first = other && !own.isFetching ? undefined : (shown?.first ?? undefined);
  const chosen: C | undefined = ownTrain?.candidate ?? first;
  // Nothing can be done with an answer to an earlier ask, or with a train that is not the one in the address.
  const listOld = ask !== "" && answer.old;
  const old = listOld || (other && own.isFetching && !ownTrain);
  const outlines = useOutlines(ownTrain, shown, shelf.data);
  const about = `${machine} ${ask} ${chosen?.train}`;
  const [suspected, suspect] = useSuspectedSlip<S>(about);
  const take = (train: string) => set({ ask: line, train });
  const changed = of.useChanged(machine, line, units);
  const put = usePut({
    train: old ? undefined : chosen?.train,
    about,
    mutate: changed?.mutate,
    take,
  });
  const ready = chosen !== undefined && !old && !standing;
  const recording = useRecord(of.useMount(machine));
  const record = () => {
    if (chosen)
      recording(
        // Without an ask it is what is on already.
        { train: chosen.train, seen: row?.mounted ?? "", ask: request.ask },
        of.recorded(chosen, name),
      );
  };
  const print = () => window.print();
  const address = chosen ? of.sheet({ ...request, ask: line }, chosen.train, units) : "";
  useSheetKeys(chosen, ready, { print, address, record });
  const reorder = () => set({ order: request.order === "most_exact" ? "" : "most_exact" });
  useKey("o", reorder, of.ordered);
  const listed = shown && [...shown.candidates, ...of.beside(shown)];
  return {
    request,
    /** The ask, or that which is on the machine makes. */
    line,
    name,
    plan,
    now,
    shelf,
    /** The train in the address, where it is not the plan's first. */
    own,
    wanted,
    /** What is looked at is what is on the machine, not an answer. */
    standing: standing !== undefined,
    lost: own.error !== null && wanted !== null && !ownTrain,
    shown,
    chosen,
    /** The plan's first set-up, named. */
    first: shown?.first ? { train: shown.first.train, text: of.trainText(shown.first) } : undefined,
    /** One's own train, where it is in no list. */
    ownListed: listed?.some((c) => c?.train === wanted) ? undefined : ownTrain?.candidate,
    /** What is chosen in the list, though it may not be here yet. */
    chosenName: other && !own.error ? (wanted ?? "") : (chosen?.train ?? ""),
    listAged: { old: listOld, busy: answer.busy },
    aged: { old, busy: answer.busy || own.isFetching },
    outlines,
    suspected,
    suspect,
    /** Something else is asked, or another train chosen. */
    ask: (text: string) => set({ ask: text, train: "" }),
    choose: (train: string) => set({ train }),
    setOrder: (order: Schemas["Order"]) => set({ order: order === "most_exact" ? order : "" }),
    setMaterial: (material: string) => set({ material }),
    take,
    put: standing ? undefined : changed && put,
    ready,
    record,
    print,
    address,
    search,
  };
}

export type Planning<P extends Plan<C>, C extends ShownTrain, N, S> = ReturnType<
  typeof usePlanning<P, C, N, S>
>;
