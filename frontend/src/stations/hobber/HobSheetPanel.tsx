import { type ReactNode, useState } from "react";

import type { HobPlan, Material, SetUp } from "../../api/hobbing";
import { useMaterials } from "../../api/hobbing";
import { SwivelDrawing } from "../../drawing/SwivelDrawing";
import { TravelDrawing } from "../../drawing/TravelDrawing";
import { Choice } from "../../kit/Form";
import { Segmented } from "../../kit/Segmented";
import { Lines } from "../../planning/Lines";
import { Nut } from "../../planning/Nut";
import { Reasons } from "../../planning/Reasons";
import { SheetButtons } from "../../planning/SheetButtons";
import { Shafts, StepList } from "../../planning/StepList";
import { Figures } from "../../planning/Figures";
import { HobbedWheel } from "./HobbedWheel";

type Part = "sheet" | "setting" | "wheel";

/** What comes of the chosen trains, the work in its order, how the machine is set, and what the wheel measures. */
export function HobSheetPanel(props: {
  set: SetUp;
  plan: HobPlan;
  material: Material;
  setMaterial: (material: Material) => void;
  pdf: string;
  print: () => void;
  record: () => void;
  children?: ReactNode;
}) {
  const { set, plan } = props;
  const [part, setPart] = useState<Part>("sheet");
  return (
    <div className="flex h-full flex-col">
      <div
        className="min-h-0 flex-1 overflow-y-auto p-4"
        tabIndex={0}
        aria-label="Set-up sheet, scrolls"
      >
        <h2 className="text-[19px] font-bold">Set-up sheet</h2>
        <p className="mt-1 font-mono text-[34px] leading-tight font-bold">
          {plan.ask.teeth}{" "}
          <span className="font-sans text-[17px] font-normal text-soft">
            teeth, {set.run_off === "exact" ? "exact" : set.run_off}
          </span>
        </p>
        <p className="mt-2 flex gap-2.5">
          <span className="mt-0.5">
            <Nut merit={set.merit} size={26} />
          </span>
          <span>
            <b>{set.head}.</b> {set.verdict} {set.faster}
          </span>
        </p>
        {set.caution && set.goes_on && (
          <p className="mt-2 border-l-4 border-oxide bg-oxide-bg px-2 py-1 font-bold">
            {set.caution}
          </p>
        )}
        <Reasons of={set} />
        {set.setting
          .filter((figure) => figure.wrong)
          .map(({ label, text }) => (
            <p
              key={label}
              className="mt-2 border-l-4 border-oxide bg-oxide-bg px-2 py-1 text-[15px]"
            >
              <b>{label}:</b> {text}
            </p>
          ))}
        {set.moved.map((text) => (
          <p key={text} className="mt-2 border-l-4 border-brass-line bg-brass-bg px-2 py-1">
            {text}
          </p>
        ))}
        <Segmented
          label="Part of the sheet"
          className="mt-3 text-[14px]"
          value={part}
          options={[
            ["sheet", "Work"],
            ["setting", "Setting up"],
            ["wheel", "Wheel"],
          ]}
          onChange={setPart}
        />
        {part === "sheet" && (
          <>
            {set.goes_on && (
              <div className="mt-2">
                <Posts set={set} />
                <StepList steps={set.sheet.steps} />
                <Lines title="Check before cutting" lines={set.sheet.proof} />
                {props.children}
                <Lines title="After cutting" lines={set.sheet.after} />
              </div>
            )}
          </>
        )}
        {part === "setting" && (
          <div className="mt-2">
            {set.swivel && <SwivelDrawing swivel={set.swivel} />}
            {set.travel && <TravelDrawing travel={set.travel} />}
            <Figures figures={set.setting} />
            <Materials material={props.material} change={props.setMaterial} />
            {plan.ask.assumptions.map((line) => (
              <p key={line} className="mt-1 text-[14px] text-soft">
                {line}
              </p>
            ))}
          </div>
        )}
        {part === "wheel" && <HobbedWheel plan={plan} />}
        <p className="mt-3 text-[14px] text-soft">{set.sheet.aid}</p>
      </div>
      <SheetButtons
        goesOn={set.goes_on}
        fits={set.fits}
        on={set.is_on}
        title={set.fits ? "Record that these trains are on the machine now" : set.reasons[0]}
        pdf={props.pdf}
        print={props.print}
        record={props.record}
      />
    </div>
  );
}

/** Box by box what goes on which post. */
function Posts({ set }: { set: SetUp }) {
  return set.sheet.boxes.map((box) => (
    <section key={box.name} aria-label={`${box.name} posts`} className="mb-2 text-[14px]">
      <h3 className="font-bold">
        {box.name} <span className="font-mono">{box.train}</span>
      </h3>
      <Shafts rows={box.shafts} />
    </section>
  ));
}

function Materials({
  material,
  change,
}: {
  material: Material;
  change: (material: Material) => void;
}) {
  const known = useMaterials().data ?? [];
  return (
    <Choice
      label="Blank of"
      value={material}
      options={known.map(({ material: of, text }) => [of, text])}
      change={change}
    />
  );
}
