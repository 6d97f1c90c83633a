import { useState } from "react";

import { Refusal } from "../../api/client";
import { type List, useChangeRack, useMachines, useRack, useWorth } from "../../api/questions";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Failed } from "../../kit/Notice";
import { useTell } from "../../kit/Toast";
import { Working } from "../../kit/Working";

/** For the pitches that the wheels lack: which one wheel brings most of them; from there into the rack as planned. */
export function WorthMaking({ machine, lists, close }: { machine: string; lists: List[]; close: () => void }) {
  const { units } = usePreferences();
  const [share, setShare] = useState(0);
  const worth = useWorth(machine, lists, units, true, setShare);
  const machines = useMachines();
  const rack = useRack();
  const change = useChangeRack();
  const tell = useTell();
  const owner = machines.data?.find((m) => m.slug === machine);
  const family = rack.data?.families.find((f) => f.name === owner?.family.name);
  const most = Math.max(1, ...(worth.data?.single.map((b) => b.pitches) ?? []));
  const plan = (teeth: number, text: string) =>
    change.mutate(
      { do: "add", pile: { wheels: String(teeth), family: family?.id ?? null, machine, material: "", place: "", note: `to be made: ${text}`.slice(0, 200), planned: true } },
      {
        onSuccess: (done) => tell({ text: `A ${teeth} is noted on ${owner?.name ?? machine}’s shelf as missing, to be made.`, undo: () => change.mutate({ do: "undo", change: done }) }),
        onError: (error) => tell({ text: error instanceof Refusal ? error.problem.detail : error.message }),
      },
    );
  return (
    <section aria-label="Which wheel is worth making" className="mb-3 border-l-4 border-blue bg-blue-bg px-4 py-2">
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-[19px] font-bold">Which wheel is worth making?</h2>
        <Button look="quiet" aria-label="Close" onClick={close}>
          ✕
        </Button>
      </div>
      {worth.isFetching && !worth.data && <Working text="Trying every wheel from what the cutters cut up to 130 teeth …" share={share} />}
      {worth.error && <Failed error={worth.error} retry={() => void worth.refetch()} />}
      {worth.data && (
        <>
          <p>{worth.data.head}</p>
          <ol className="mt-2 grid gap-2">
            {worth.data.single.slice(0, 6).map((brings) => (
              <li key={brings.teeth} className="grid grid-cols-[64px_1fr_auto] items-center gap-3 border border-line bg-paper px-3 py-2">
                <b className="font-mono text-[30px] leading-none">{brings.teeth}</b>
                <div className="text-[15px]">
                  <div className="mb-1 h-2.5 border border-steel-2" aria-hidden>
                    <div className="h-full bg-blue" style={{ width: `${(brings.pitches / most) * 100}%` }} />
                  </div>
                  {brings.text}
                </div>
                <Button onClick={() => plan(brings.teeth, `brings ${brings.asks.join(", ")}`)} disabled={!family}>
                  Plan to make it
                </Button>
              </li>
            ))}
          </ol>
          {worth.data.together && <p className="mt-2">{worth.data.together}</p>}
        </>
      )}
    </section>
  );
}
