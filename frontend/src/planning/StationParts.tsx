import type { ReactNode } from "react";
import type { KindName } from "../app/planned";
import { Link, Navigate, useSearchParams } from "react-router";

import { useMachines, useShelf } from "../api/machines";
import { nameIn } from "../app/named";
import { Failure } from "../app/Notice";
import type { Drawing, Outline } from "../api/client";
import { Callout } from "../kit/Callout";
import { Button, buttonLook } from "../kit/Button";
import { WheelShelf } from "./WheelShelf";

/** To the machine of a kind that the ask names, or the first there is; where there is none, to add one. */
export function StartAt(props: { kind: Exclude<KindName, "lathe">; needs: string }) {
  const { kind } = props;
  const machines = useMachines();
  const [search] = useSearchParams();
  if (machines.error)
    return <Failure error={machines.error} retry={() => void machines.refetch()} />;
  if (!machines.data) return null;
  const all = machines.data.filter((m) => m.kind === kind);
  const named = nameIn(search.get("ask") ?? "");
  const usual = all.find((m) => m.name.toLowerCase() === named) ?? all.find((m) => !m.archived);
  if (usual) return <Navigate replace to={`/${kind}/${usual.slug}?${search}`} />;
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">There is no {kind} here yet.</h1>
      <p className="mt-1">{props.needs}</p>
      <Link className={`${buttonLook("main")} mt-3`} to={`/machines/new/${kind}`}>
        Add a {kind}
      </Link>
    </div>
  );
}

/** The machines cannot be asked for, or the one in the address is none of this kind; null where it is. */
export function useNoSuchMachine(kind: KindName, machine: string) {
  const machines = useMachines();
  if (machines.error && !machines.data)
    return (
      <div className="p-6">
        <Failure error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  if (machines.data && !machines.data.some((m) => m.slug === machine && m.kind === kind))
    return (
      <div className="p-6">
        <h1 className="text-xl font-bold">
          There is no {kind} “{machine}” here.
        </h1>
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  return null;
}

/** Before anything is asked: what to type, and what is on the machine now. */
export function FirstAsk(props: {
  title: string;
  say: string;
  examples: string[];
  take: (ask: string) => void;
  name: string;
  now?: ReactNode;
}) {
  return (
    <div>
      <h1 className="text-heading font-bold">{props.title}</h1>
      <p className="mt-1">{props.say}</p>
      <div className="mt-3 flex flex-col gap-2">
        {props.examples.map((ask) => (
          <Button
            key={ask}
            look="quiet"
            className="justify-start text-left font-mono whitespace-normal!"
            onClick={() => props.take(ask)}
          >
            {ask}
          </Button>
        ))}
      </div>
      {props.now && (
        <Callout tone="note" className="mt-5">
          <h2 className="font-bold">On {props.name} now</h2>
          {props.now}
        </Callout>
      )}
    </div>
  );
}

/** What is on a machine in words, and the ask that it answers. */
export function AskOfNow(props: {
  now: { ask: string | null; text: string };
  take: (ask: string) => void;
}) {
  const { ask, text } = props.now;
  return (
    <>
      <p>{text}</p>
      {ask && (
        <Button className="mt-2" onClick={() => props.take(ask)}>
          See {ask}
        </Button>
      )}
    </>
  );
}

/** What stands in the address cannot be shown, and why. */
export function NotInAddress(props: {
  error: Error;
  retry: () => void;
  text: string;
  first: () => void;
}) {
  return (
    <div className="mb-3">
      <Failure error={props.error} retry={props.retry}>
        <p>{props.text}</p>
        <Button className="mt-2" onClick={props.first}>
          See the first of the list
        </Button>
      </Failure>
    </div>
  );
}

/** The ask names a machine that is none of this kind. */
export function NamedElsewhere({ kind, named, name }: Record<"kind" | "named" | "name", string>) {
  return (
    <Callout role="alert" tone="wrong" as="p" className="mb-2">
      There is no {kind} “{named}” here. This is planned on {name}.
    </Callout>
  );
}

/** The wheels of a machine on their shelf, or why they cannot be shown. */
export function Shelf(props: {
  shelf: ReturnType<typeof useShelf>;
  drawing: Drawing | undefined;
  planned: Outline[];
  name: string;
}) {
  const { shelf } = props;
  return (
    <>
      {shelf.error && <Failure error={shelf.error} retry={() => void shelf.refetch()} />}
      {shelf.data && (
        <WheelShelf
          shelf={shelf.data}
          drawing={props.drawing}
          planned={props.planned}
          name={props.name}
        />
      )}
    </>
  );
}
