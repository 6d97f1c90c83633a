import { Radio, RadioGroup } from "@headlessui/react";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { Link } from "react-router";

import type { HobPlan, ListedSetUp } from "../../api/hobbing";
import { Disclosure } from "../../kit/Disclosure";
import { Nut } from "../../planning/Nut";
import { TrainFraction } from "../../planning/TrainFraction";

/** Set-ups in order of least trouble, and what else would bring a count that has no exact train. */
export function SetUps(props: {
  plan: HobPlan;
  own?: ListedSetUp;
  chosen: string;
  choose: (trains: string) => void;
  fields: ReactNode;
}) {
  const { plan, own, chosen } = props;
  return (
    <>
      <div className="flex items-baseline justify-between gap-2">
        <h1 className="text-[19px] font-bold">Trains</h1>
        <span className="text-[14px] text-soft">
          {plan.set_ups.length} {plan.not_known.length > 0 ? "to try" : "that go on"}
        </span>
      </div>
      {props.fields}
      {plan.shortfall && (
        <p className="mt-2 border-l-4 border-brass-line bg-brass-bg px-3 py-2 text-[15px]">
          {plan.shortfall}
        </p>
      )}
      {plan.cut_short && (
        <p className="mt-2 border-l-4 border-brass-line bg-brass-bg px-3 py-2 text-[14px]">
          {plan.cut_short}
        </p>
      )}
      {plan.not_known.length > 0 && (
        <div className="mt-1 border-l-4 border-brass-line bg-brass-bg px-2 text-[14px]">
          <Disclosure title="Not known of this hobber" state={String(plan.not_known.length)}>
            {plan.not_known.map((said) => (
              <p key={said} className="mb-1">
                {said}
              </p>
            ))}
            <Link
              to={`/machines/${plan.machine}`}
              className="inline-flex min-h-11 items-center font-bold underline underline-offset-2"
            >
              Add what you know
            </Link>
          </Disclosure>
        </div>
      )}
      <RadioGroup
        aria-label="Trains"
        value={chosen}
        onChange={props.choose}
        className="mt-2 flex flex-col gap-1.5"
      >
        {own && (
          <Beside title="Your own trains" id="own">
            <Choice set={own} chosen={own.trains === chosen} />
          </Beside>
        )}
        {plan.set_ups.map((set) => (
          <Choice key={set.trains} set={set} chosen={set.trains === chosen} />
        ))}
        {plan.ways_out.length > 0 && (
          <Beside title="Other ways" id="ways">
            {plan.ways_out.map(({ text, set_up }) => (
              <Choice
                key={set_up.trains}
                set={set_up}
                chosen={set_up.trains === chosen}
                reason={text}
              />
            ))}
          </Beside>
        )}
      </RadioGroup>
      {plan.left_out && (
        <p className="mt-3 border-l-4 border-brass-line bg-brass-bg px-3 py-2 text-[14px]">
          {plan.left_out}
        </p>
      )}
    </>
  );
}

function Beside({ title, id, children }: { title: string; id: string; children: ReactNode }) {
  return (
    <div className="mt-2 flex flex-col gap-1.5" role="group" aria-labelledby={id}>
      <h2 id={id} className="text-[15px] font-bold">
        {title}
      </h2>
      {children}
    </div>
  );
}

function Choice({ set, chosen, reason }: { set: ListedSetUp; chosen: boolean; reason?: string }) {
  const card = useRef<HTMLElement>(null);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    if (chosen && shown) card.current?.scrollIntoView({ block: "nearest" });
    setShown(true);
  }, [chosen, shown]);
  const [index, ...others] = set.boxes;
  return (
    <Radio
      ref={card}
      value={set.trains}
      className="block cursor-pointer rounded-sm border border-line bg-paper px-2.5 py-1 text-[14px] leading-snug outline-none data-checked:border-blue data-checked:bg-blue-bg data-checked:shadow-[inset_0_0_0_1px_var(--blue)] data-focus:outline-3 data-focus:outline-offset-1 data-focus:outline-blue"
    >
      <span className="flex items-center justify-between gap-2">
        {index && <TrainFraction stages={index.stages} text={`index ${index.text}`} small />}
        <span className="flex items-center gap-1.5">
          <Nut merit={set.merit} />
          <b className="max-w-[6.2em] text-[14px] leading-tight">{set.head}</b>
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
      </span>
      {reason && <span className="block text-soft">{reason}</span>}
    </Radio>
  );
}
