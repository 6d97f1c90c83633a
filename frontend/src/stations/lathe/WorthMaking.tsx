import { useState } from "react";

import { Refusal, refusedAt } from "../../api/client";
import { type Limits, type List, useWorth } from "../../api/lathe";
import { useMachines } from "../../api/machines";
import { useChangeRack, useFamilies } from "../../api/rack";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { Checkbox } from "../../kit/Checkbox";
import { useTell } from "../../app/Toast";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { MakeLink } from "../../planning/MakeLink";

const NONE_DIVIDES = { slug: "", name: "however it is divided" };

/** Which wheels may be thought of, and for what. */
function LimitsForm({
  limits,
  use,
  error,
}: {
  limits: Limits;
  use: (limits: Limits) => void;
  error: Error | null;
}) {
  const [typed, setTyped] = useState(limits);
  const put = (changes: Partial<Limits>) => setTyped((now) => ({ ...now, ...changes }));
  const machines = useMachines();
  const inUse = machines.data?.filter((m) => !m.archived) ?? [];
  const heads = inUse.filter((m) => m.kind !== "lathe" && m.kind !== "hobber");
  const wrong = refusedAt(error);
  return (
    <form
      className="my-2 flex flex-wrap items-end gap-x-4 gap-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        use(typed);
      }}
    >
      <TextField
        label="Only for these pitches, not the lists"
        className="min-w-64 phone:basis-full"
        value={typed.wanted}
        onChange={(wanted) => put({ wanted })}
        example="26 tpi, M14x2"
        problem={wrong("wanted")}
      />
      <TextField
        label="From, teeth"
        className="max-w-24 min-w-20"
        value={typed.fewest}
        onChange={(fewest) => put({ fewest })}
        example="12"
        problem={wrong("fewest")}
        numeric
      />
      <TextField
        label="to"
        className="max-w-24 min-w-20"
        value={typed.most}
        onChange={(most) => put({ most })}
        example="any"
        problem={wrong("most")}
        numeric
      />
      <div className="flex min-w-32 flex-1">
        <Choice
          label="Divided on"
          value={typed.head}
          options={[NONE_DIVIDES, ...heads].map((m) => [m.slug, m.name])}
          change={(head) => put({ head })}
        />
      </div>
      <Checkbox
        label="only what my cutters cut"
        ticked={typed.cutters}
        change={(cutters) => put({ cutters })}
      />
      <Button type="submit">Look</Button>
      {wrong("head") && (
        <p role="alert" className="w-full text-oxide">
          {wrong("head")}
        </p>
      )}
    </form>
  );
}

/** For the pitches that the wheels lack: which one wheel brings most of them; from there into the rack as planned. */
export function WorthMaking({
  machine,
  lists,
  close,
}: {
  machine: string;
  lists: List[];
  close: () => void;
}) {
  const { units } = usePreferences();
  const [limits, setLimits] = useState<Limits>({
    wanted: "",
    fewest: "",
    most: "",
    cutters: false,
    head: "",
  });
  const worth = useWorth(machine, lists, limits, units);
  const machines = useMachines();
  const families = useFamilies();
  const change = useChangeRack();
  const tell = useTell();
  const owner = machines.data?.find((m) => m.slug === machine);
  const family = families.data?.find((f) => f.name === owner?.family?.name);
  const most = Math.max(1, ...(worth.data?.single.map((b) => b.pitches) ?? []));
  const plan = (teeth: number, text: string) =>
    change.mutate(
      {
        do: "add",
        pile: {
          wheels: String(teeth),
          family: family?.id ?? null,
          machine,
          material: "",
          place: "",
          note: `to be made: ${text}`.slice(0, 200),
          planned: true,
        },
      },
      {
        onSuccess: () =>
          tell({
            text: `A ${teeth} is noted on ${owner?.name ?? machine}’s shelf as missing, to be made.`,
            done: true,
          }),
        onError: (error) => tell({ text: error.message }),
      },
    );
  return (
    <section
      aria-label="Which wheel is worth making"
      className="mb-3 border-l-4 border-blue bg-blue-bg px-4 py-2"
    >
      <div className="flex items-center justify-between gap-3">
        <h2 className="text-heading font-bold">Which wheel is worth making?</h2>
        <Button look="quiet" aria-label="Close" onClick={close}>
          ✕
        </Button>
      </div>
      <LimitsForm limits={limits} use={setLimits} error={worth.error} />
      {worth.isFetching && !worth.data && (
        <Working text="Trying every wheel …" share={worth.share} />
      )}
      {worth.error && !(worth.error instanceof Refusal && worth.error.problem.errors?.length) && (
        <Failure error={worth.error} retry={() => void worth.refetch()} />
      )}
      {worth.data && (
        <>
          <p>{worth.data.head}</p>
          <ol className="mt-2 grid gap-2">
            {worth.data.single.slice(0, 6).map((brings) => (
              <li
                key={brings.teeth}
                className="grid grid-cols-[64px_1fr_auto] items-center gap-3 border border-line bg-paper px-3 py-2 phone:grid-cols-[64px_1fr]"
              >
                <b className="font-mono text-figure leading-none">{brings.teeth}</b>
                <div className="text-lesser">
                  <div className="mb-1 h-2.5 border border-steel-2" aria-hidden>
                    <div
                      className="h-full bg-blue"
                      style={{ width: `${(brings.pitches / most) * 100}%` }}
                    />
                  </div>
                  {brings.text}
                </div>
                <span className="flex flex-col gap-1 phone:col-span-2 phone:flex-row phone:flex-wrap">
                  <MakeLink teeth={brings.teeth} machine={owner?.name ?? machine} />
                  <Button
                    onClick={() => plan(brings.teeth, `brings ${brings.asks.join(", ")}`)}
                    disabled={!family}
                  >
                    Plan to make it
                  </Button>
                </span>
              </li>
            ))}
          </ol>
          {worth.data.together && <p className="mt-2">{worth.data.together}</p>}
        </>
      )}
    </section>
  );
}
