import { type ReactNode, useState } from "react";
import { Link } from "react-router";

import type { HelixPlan, HelixSetUp } from "../../api/milling";
import { buttonLook } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";
import { Figures } from "../../planning/Figures";
import { Lines } from "../../planning/Lines";
import { meritOf, Nut } from "../../planning/Nut";
import { Reasons } from "../../planning/Reasons";
import { SheetButtons } from "../../planning/SheetButtons";
import { Shafts, StepList } from "../../planning/StepList";
import { PairCheck } from "./PairCheck";

type Part = "work" | "setting" | "wheel";

/** The set-up in the order of the work, with its verdict, its setting, its proof, and the pair. */
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
    <div className="flex h-full flex-col">
      <div
        className="min-h-0 flex-1 overflow-y-auto p-4"
        tabIndex={0}
        aria-label="Set-up sheet, scrolls"
      >
        <h2 className="text-[19px] font-bold">Set-up sheet</h2>
        <p className="mt-1 font-mono text-[34px] leading-tight font-bold">
          {figure} <span className="font-sans text-[17px] font-normal text-soft">{unit} lead</span>
        </p>
        <p className="mt-2 flex gap-2.5">
          <span className="mt-0.5">
            <Nut merit={meritOf(set.goes, set.relative_error === 0)} size={26} />
          </span>
          <span>
            <b>{set.verdict_head}.</b> {set.verdict}
          </span>
        </p>
        <Reasons of={set} />
        {plan.setting.figures
          .filter((one) => one.wrong)
          .map(({ label, text }) => (
            <p
              key={label}
              className="mt-2 border-l-4 border-oxide bg-oxide-bg px-2 py-1 text-[15px]"
            >
              <b>{label}:</b> {text}.
            </p>
          ))}
        {[set.load, set.mate].map(
          (text) =>
            text && (
              <p key={text} className="mt-2 border-l-4 border-brass-line bg-brass-bg px-2 py-1">
                {text}
              </p>
            ),
        )}
        <Segmented
          label="Part of the sheet"
          className="mt-3 text-[14px]"
          value={shown}
          options={[
            ["work", "Work"],
            ["setting", "Setting"],
            ...(wheel ? ([["wheel", "Wheel"]] satisfies [Part, string][]) : []),
          ]}
          onChange={setPart}
        />
        {shown === "work" && set.goes_on && (
          <div className="mt-2">
            <Shafts label="Shafts" rows={set.sheet.shafts} />
            <StepList steps={set.sheet.steps} />
            <Lines title="Check by hand before the cutter touches" lines={set.sheet.proof} />
            {props.children}
            {wheel && (
              <Link
                className={`${buttonLook()} mt-3`}
                to={`/jobs?${new URLSearchParams({ ask: props.ask, mill: plan.machine, train: set.train })}`}
              >
                Make it: a job
              </Link>
            )}
          </div>
        )}
        {shown === "setting" && (
          <div className="mt-2">
            <Figures figures={plan.setting.figures} />
            {plan.ask.assumptions.map((line) => (
              <p key={line} className="mt-1 text-[14px] text-soft">
                {line}
              </p>
            ))}
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
        <p className="mt-3 text-[14px] text-soft">{set.sheet.aid}</p>
      </div>
      <SheetButtons
        goesOn={set.goes_on}
        fits={set.fits}
        on={set.is_on}
        title={set.fits ? "Record that this is on the machine now" : set.reasons[0]}
        pdf={props.pdf}
        print={props.print}
        record={props.record}
      />
    </div>
  );
}
