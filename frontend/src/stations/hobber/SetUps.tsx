import { Radio, RadioGroup } from "@headlessui/react";
import type { ReactNode } from "react";

import type { HobPlan, ListedSetUp } from "../../api/hobber";
import { Beside, CHOICE, LeftOutNote, NotKnown } from "../../planning/Beside";
import { Nut } from "../../drawing/Nut";
import { TrainFraction } from "../../planning/TrainFraction";
import { useInSight } from "../../planning/useInSight";
import { Callout } from "../../kit/Callout";

/** Set-ups in order of least trouble, and what else would bring a count that has no exact train. */
export function SetUps(props: {
  plan: HobPlan;
  own?: ListedSetUp;
  chosen: string;
  choose: (train: string) => void;
  fields: ReactNode;
}) {
  const { plan, own, chosen } = props;
  return (
    <>
      <div className="flex items-baseline justify-between gap-2">
        <h1 className="text-heading font-bold">Trains</h1>
        <span className="text-fine text-soft">
          {plan.candidates.length} {plan.not_known.length > 0 ? "to try" : "that fit"}
        </span>
      </div>
      {props.fields}
      {plan.shortfall && (
        <Callout tone="note" as="p" small className="mt-2">
          {plan.shortfall}
        </Callout>
      )}
      {plan.cut_short && (
        <Callout tone="note" as="p" small className="mt-2">
          {plan.cut_short}
        </Callout>
      )}
      <NotKnown of="hobber" machine={plan.machine} sentences={plan.not_known} />
      <RadioGroup
        aria-label="Trains"
        value={chosen}
        onChange={props.choose}
        className="mt-2 flex flex-col gap-1.5"
      >
        {own && (
          <Beside title="Your own trains" id="own">
            <Choice set={own} chosen={own.train === chosen} />
          </Beside>
        )}
        {plan.candidates.map((set) => (
          <Choice key={set.train} set={set} chosen={set.train === chosen} />
        ))}
        {plan.ways_out.length > 0 && (
          <Beside title="Other ways" id="ways">
            {plan.ways_out.map(({ text, candidate }) => (
              <Choice
                key={candidate.train}
                set={candidate}
                chosen={candidate.train === chosen}
                reason={text}
              />
            ))}
          </Beside>
        )}
      </RadioGroup>
      <LeftOutNote text={plan.left_out} />
    </>
  );
}

function Choice({ set, chosen, reason }: { set: ListedSetUp; chosen: boolean; reason?: string }) {
  const card = useInSight<HTMLElement>(chosen);
  const [index, ...others] = set.boxes;
  return (
    <Radio ref={card} value={set.train} className={CHOICE}>
      <span className="flex items-center justify-between gap-2">
        {index && <TrainFraction stages={index.stages} text={`index ${index.text}`} small />}
        <span className="flex items-center gap-1.5">
          <Nut merit={set.merit} />
          <b className="max-w-[6.2em] text-fine leading-tight">{set.head}</b>
        </span>
      </span>
      {others.map((box) => (
        <span key={box.box} className="mt-0.5 block">
          {box.name} <b>{box.text}</b>
          {box.box === "feed" && ` · ${set.feed.replace("feed ", "")}`}
        </span>
      ))}
      <span className={`block ${set.goes_on ? "text-soft" : "text-oxide"}`}>
        {set.goes_on ? `${set.room} · ${set.work}` : set.reasons[0]}
        {set.on_plate && " · on the plate"}
      </span>
      {reason && <span className="block text-soft">{reason}</span>}
    </Radio>
  );
}
