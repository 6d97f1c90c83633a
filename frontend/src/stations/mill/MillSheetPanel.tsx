import { type ReactNode, useState } from "react";
import { StartJob } from "../../planning/MakeLink";

import type { HelixPlan, HelixSetUp } from "../../api/mill";
import { buttonLook } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";
import { Figures } from "../../planning/Figures";
import { meritOf } from "../../drawing/Nut";
import { Reasons } from "../../planning/Reasons";
import { Assumptions, SheetFrame, Remark, Warning } from "../../planning/SheetFrame";
import { Work } from "../../planning/Work";
import { PairCheck } from "./PairCheck";

type Part = "work" | "setting" | "wheel";

/** The set-up in the order of the work, with its verdict, its setting, its check, and the pair. */
export function MillSheetPanel(props: {
  set: HelixSetUp;
  plan: HelixPlan;
  ask: string;
  pdf: string;
  print: () => void;
  record: () => void;
  children?: ReactNode;
}) {
  const { set, plan } = props;
  const [part, setPart] = useState<Part>("work");
  const [figure = "", unit = ""] = set.lead.split(" ");
  const wheel = plan.setting.wheel.length > 0;
  const shown = part === "wheel" && !wheel ? "work" : part;
  return (
    <SheetFrame
      of={set}
      figure={figure}
      unit={`${unit} lead`}
      merit={meritOf(set.goes, set.relative_error === 0)}
      head={set.verdict_head}
      verdict={set.verdict}
      records="Record that this is on the machine now"
      pdf={props.pdf}
      print={props.print}
      record={props.record}
    >
      <Reasons of={set} />
      {plan.setting.figures
        .filter((one) => one.wrong)
        .map(({ label, text }) => (
          <Warning key={label} label={label} text={`${text}.`} />
        ))}
      {[set.load, set.mate].map((text) => text && <Remark key={text} text={text} />)}
      <Segmented
        label="Part of the sheet"
        className="mt-3 text-fine"
        value={shown}
        options={[
          ["work", "Work"],
          ["setting", "Setting"],
          ...(wheel ? ([["wheel", "Wheel"]] satisfies [Part, string][]) : []),
        ]}
        onChange={setPart}
      />
      {shown === "work" && set.goes_on && (
        <>
          <Work sheet={set.sheet} check={props.children} />
          {wheel && (
            <StartJob
              of={{ ask: props.ask, mill: plan.machine, train: set.train }}
              className={`${buttonLook()} mt-3`}
            >
              Make it: a job
            </StartJob>
          )}
        </>
      )}
      {shown === "setting" && (
        <div className="mt-2">
          <Figures figures={plan.setting.figures} />
          <Assumptions lines={plan.ask.assumptions} />
        </div>
      )}
      {shown === "wheel" && (
        <div className="mt-2">
          <Figures figures={plan.setting.wheel} />
          <PairCheck
            key={props.ask}
            machine={plan.machine}
            ask={props.ask}
            set={set}
            mate={plan.ask.mate}
          />
        </div>
      )}
    </SheetFrame>
  );
}
