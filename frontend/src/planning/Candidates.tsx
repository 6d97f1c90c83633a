import { Radio, RadioGroup } from "@headlessui/react";
import type { ReactNode } from "react";

import type { Order, Schemas } from "../api/client";
import { meritOf, Nut } from "../drawing/Nut";
import { Callout } from "../kit/Callout";
import { Segmented } from "../kit/Segmented";
import { Beside, CHOICE, LeftOutNote, NotKnown } from "./Beside";
import { TrainFraction } from "./TrainFraction";
import { useInSight } from "./useInSight";

type ListedTrain = Schemas["ListedTrain"];

/** A plan of whatever machine, as its list shows it. */
interface Listing {
  machine: string;
  candidates: ListedTrain[];
  order: Order;
  most_exact_unfit: ListedTrain | null;
  one_more: ListedTrain | null;
  one_more_text: string | null;
  shortfall: string | null;
  cut_short: string | null;
  not_known: string[];
  left_out?: string | null;
}

/** The trains in order of merit, and what stands next to them: the closest that does not go on, one more wheel. */
export function Candidates(props: {
  plan: Listing;
  /** What the machine is called where it is not known well. */
  of: string;
  own?: ListedTrain;
  chosen: string;
  choose: (train: string) => void;
  setOrder: (order: Order) => void;
  /** The ask in fields, and what else this machine has to say; above the list. */
  fields: ReactNode;
  further?: ReactNode;
}) {
  const { plan, chosen } = props;
  const unchecked = plan.candidates.some((c) => c.checked !== "room");
  return (
    <>
      <div className="flex items-baseline justify-between gap-2">
        <h1 className="text-heading font-bold">Trains</h1>
        <span className="text-fine text-soft">
          {plan.candidates.length} {unchecked ? "to try" : "that fit"}
        </span>
      </div>
      <Segmented
        label="Order"
        className="mt-2 text-fine"
        value={plan.order}
        options={[
          ["least_trouble", "Least trouble"],
          ["most_exact", "Most exact"],
        ]}
        onChange={props.setOrder}
      />
      {props.fields}
      {plan.shortfall && (
        <Callout tone="wrong" as="p" small className="mt-3">
          <b>Nothing meets this.</b> {plan.shortfall}
        </Callout>
      )}
      {plan.cut_short && (
        <Callout tone="note" as="p" small className="mt-3">
          {plan.cut_short}
        </Callout>
      )}
      <NotKnown of={props.of} machine={plan.machine} sentences={plan.not_known} />
      {props.further}
      <RadioGroup
        aria-label="Trains"
        value={chosen}
        onChange={props.choose}
        className="mt-1 flex flex-col gap-1.5"
      >
        {props.own && (
          <Beside title="Your own train" id="own">
            <Choice
              candidate={props.own}
              chosen={props.own.train === chosen}
              reason={props.own.reasons[0]}
            />
          </Beside>
        )}
        {plan.candidates.map((c, n) => (
          <Choice
            key={c.train}
            candidate={c}
            chosen={c.train === chosen}
            reason={n === 0 && plan.order === "least_trouble" ? c.order_reason : undefined}
          />
        ))}
        {plan.most_exact_unfit && (
          <Beside title="Most exact, but does not fit" id="unfit">
            <Choice
              candidate={plan.most_exact_unfit}
              chosen={plan.most_exact_unfit.train === chosen}
              reason={plan.most_exact_unfit.reasons[0]}
            />
          </Beside>
        )}
        {plan.one_more && (
          <Beside title="Best with one more wheel" id="more">
            <Choice
              candidate={plan.one_more}
              chosen={plan.one_more.train === chosen}
              reason={plan.one_more_text ?? undefined}
            />
          </Beside>
        )}
      </RadioGroup>
      <LeftOutNote text={plan.left_out} />
    </>
  );
}

function Choice({
  candidate,
  chosen,
  reason,
}: {
  candidate: ListedTrain;
  chosen: boolean;
  reason?: string;
}) {
  const card = useInSight<HTMLElement>(chosen);
  return (
    <Radio ref={card} value={candidate.train} className={CHOICE}>
      <span className="flex items-center justify-between gap-2">
        <TrainFraction stages={candidate.stages} text={candidate.text} small />
        <span className="flex items-center gap-1.5">
          <Nut merit={meritOf(candidate.goes, candidate.relative_error === 0)} />
          <b className="max-w-[6.2em] text-fine leading-tight">{candidate.verdict_head}</b>
        </span>
      </span>
      <span className="mt-0.5 block">
        {candidate.levers && (
          <>
            <b className="font-mono">{candidate.levers}</b> ·{" "}
          </>
        )}
        {candidate.lead} · {candidate.error}
      </span>
      <span className={`block ${candidate.goes_on ? "text-soft" : "text-oxide"}`}>
        {candidate.room}
        {candidate.goes_on && ` · ${candidate.work}`}
        {candidate.on_plate && " · on the plate"}
      </span>
      {reason && <span className="block text-soft">{reason}</span>}
    </Radio>
  );
}
