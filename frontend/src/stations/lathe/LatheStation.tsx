import { useEffect, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";

import { type Candidate, type Order, type Plan, Refusal } from "../../api/client";
import { type Asked, sheetAddress, useMachines, useMount, useNow, usePlan, useShelf } from "../../api/questions";
import { Reading } from "../../app/AskLine";
import { useKey } from "../../app/keys";
import { usePreferences } from "../../app/preferences";
import { WheelShelf } from "../../drawing/WheelShelf";
import { Button } from "../../kit/Button";
import { Failed } from "../../kit/Notice";
import { useTell } from "../../kit/Toast";
import { TrainFraction } from "../../kit/TrainFraction";
import { Candidates } from "./Candidates";
import { DrawingBoard } from "./DrawingBoard";
import { PrintedSheet } from "./PrintedSheet";
import { ProofCheck, type Suspected } from "./ProofCheck";
import { SheetPanel } from "./SheetPanel";

const EXAMPLES = ["M14x2", "26 tpi", "1.5 mm", "1/2-13", "M8 left hand"];

/** Ask for a thread; see the trains, the chosen one on the quadrant, its wheels on the shelf, its sheet. */
export function LatheStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const asked: Asked = {
    machine,
    ask: search.get("ask") ?? "",
    order: search.get("order") === "most_exact" ? "most_exact" : "least_trouble",
    diameter: search.get("diameter") ?? "",
    engagement: search.get("engagement") ?? "",
  };
  const plan = usePlan(asked, units);
  const now = useNow(machine, units, asked.ask === "");
  const shelf = useShelf(machine);
  const machines = useMachines();
  const name = machines.data?.find((m) => m.slug === machine)?.name ?? machine;

  const shown = asked.ask ? (plan.error ? undefined : plan.data) : (now.data ?? undefined);
  const chosen = shown && choice(shown, search.get("train"));
  const set = (changes: Record<string, string>) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        for (const [key, value] of Object.entries(changes)) value ? next.set(key, value) : next.delete(key);
        return next;
      },
      { replace: true },
    );

  const [suspected, setSuspected] = useState<Suspected>();
  const key = `${machine} ${asked.ask} ${chosen?.train}`;
  useEffect(() => setSuspected(undefined), [key]);

  const record = useRecord(machine, name);
  const print = () => window.print();
  const address = chosen ? sheetAddress({ ...asked, ask: asked.ask || shown.ask.canonical }, chosen.train, units) : "";
  useKey("p", print, chosen?.goes_on ?? false);
  useKey("d", () => location.assign(address), chosen?.goes_on ?? false);
  useKey("m", () => chosen && record(chosen), chosen?.fits ?? false);
  useKey("o", () => set({ order: asked.order === "most_exact" ? "" : "most_exact" }));

  if (machines.data && !machines.data.some((m) => m.slug === machine)) return <NoSuchLathe machine={machine} />;
  return (
    <>
      <div className="grid h-full grid-cols-[288px_minmax(0,1fr)_304px] grid-rows-[minmax(0,1fr)_152px] tall:grid-cols-[320px_minmax(0,1fr)] tall:grid-rows-[500px_minmax(0,1fr)_150px] print:hidden">
        <section aria-label="Trains" className="min-h-0 overflow-y-auto border-r border-line p-4 tall:row-start-2">
          {!asked.ask && <FirstThing name={name} on={now.data ?? undefined} take={(ask) => set({ ask })} />}
          {plan.error && asked.ask && <PlanFailed error={plan.error} retry={() => void plan.refetch()} take={(ask) => set({ ask, diameter: "", engagement: "" })} />}
          {asked.ask && shown && chosen !== undefined && (
            <Candidates
              plan={shown}
              asked={asked}
              chosen={chosen.train}
              choose={(train) => set({ train })}
              setOrder={(order: Order) => set({ order: order === "most_exact" ? order : "" })}
              set={set}
            />
          )}
          {asked.ask && shown && chosen === undefined && <p>{shown.shortfall ?? "No train can be made of these wheels."}</p>}
          {plan.isPending && asked.ask && <p className="text-soft">Looking for trains …</p>}
        </section>
        <section aria-label="Drawing" className="relative min-h-0 min-w-0 overflow-hidden bg-paper tall:col-span-2 tall:row-start-1">
          {suspected && chosen ? (
            <DrawingBoard candidate={suspected.candidate} outlines={suspected.outlines} machine={name} suspected={suspected.text} planned={chosen} back={() => setSuspected(undefined)} />
          ) : (
            <DrawingBoard candidate={chosen} outlines={shown?.outlines ?? []} machine={name} />
          )}
        </section>
        <section aria-label="Set-up sheet" className="min-h-0 border-l border-line tall:row-start-2 tall:border-t">
          {chosen && (
            <SheetPanel candidate={chosen} machine={name} assumptions={shown.ask.assumptions} pdf={address} print={print} record={() => record(chosen)}>
              <ProofCheck machine={machine} ask={asked.ask || shown.ask.canonical} candidate={chosen} suspected={suspected} suspect={setSuspected} />
            </SheetPanel>
          )}
        </section>
        <div className="col-span-3 min-h-0 border-t border-line tall:col-span-2 tall:row-start-3">
          {shelf.data && <WheelShelf shelf={shelf.data} drawing={asked.ask ? chosen?.drawing : undefined} planned={shown?.outlines ?? []} name={name} />}
        </div>
      </div>
      {chosen && <PrintedSheet candidate={chosen} outlines={shown.outlines} machine={name} />}
    </>
  );
}

/** The train in the address, else the first of the list. */
function choice(plan: Plan, train: string | null): Candidate | undefined {
  const all = [...plan.candidates, plan.most_exact_unfit, plan.one_more].filter((c) => c != null);
  return all.find((c) => c.train === train) ?? all[0];
}

/** Record a train as mounted, and offer the way back. */
function useRecord(machine: string, name: string) {
  const mount = useMount(machine);
  const tell = useTell();
  return (candidate: Candidate) =>
    mount.mutate(candidate.train, {
      onSuccess: ({ before }) => tell({ text: `Recorded: ${candidate.text} is on ${name}.`, undo: () => mount.mutate(before ?? null) }),
      onError: (error) => tell({ text: `Not recorded: ${error.message}` }),
    });
}

function FirstThing({ name, on, take }: { name: string; on?: Plan; take: (ask: string) => void }) {
  const mounted = on?.candidates[0];
  return (
    <div>
      <h1 className="text-[19px] font-bold">What thread?</h1>
      <p className="mt-1">Type it on top, as you would say it, or start with one of these on {name}:</p>
      <div className="mt-3 flex flex-col gap-2">
        {EXAMPLES.map((ask) => (
          <Button key={ask} look="quiet" className="justify-start font-mono" onClick={() => take(ask)}>
            {ask}
          </Button>
        ))}
      </div>
      {mounted && (
        <div className="mt-5 border-l-4 border-brass-line bg-brass-bg px-3 py-2">
          <h2 className="font-bold">On {name} now</h2>
          <TrainFraction stages={mounted.stages} text={mounted.text} className="my-2" />
          <p>cuts {mounted.lead}</p>
        </div>
      )}
    </div>
  );
}

function PlanFailed({ error, retry, take }: { error: Error; retry: () => void; take: (ask: string) => void }) {
  const problem = error instanceof Refusal ? error.problem : undefined;
  return (
    <Failed error={error} retry={retry}>
      {problem && (
        <div className="mt-2">
          <Reading reading={{ ...problem, understood: problem.understood ?? [], left_over: problem.left_over ?? [], nearest: problem.nearest ?? [] }} take={take} />
        </div>
      )}
    </Failed>
  );
}

function NoSuchLathe({ machine }: { machine: string }) {
  const navigate = useNavigate();
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">There is no lathe “{machine}” here.</h1>
      <Button className="mt-3" onClick={() => void navigate("/machines")}>
        See the machines
      </Button>
    </div>
  );
}
