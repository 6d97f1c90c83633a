import { type ReactNode, useState } from "react";

import type { HobPlan, Material, SetUp } from "../../api/hobber";
import { useMaterials } from "../../api/hobber";
import { SwivelDrawing } from "../../drawing/SwivelDrawing";
import { TravelDrawing } from "../../drawing/TravelDrawing";
import { Choice } from "../../kit/Form";
import { Segmented } from "../../kit/Segmented";
import { Reasons } from "../../planning/Reasons";
import { Assumptions, SheetFrame, Remark, Warning } from "../../planning/SheetFrame";
import { Work } from "../../planning/Work";
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
    <SheetFrame
      of={set}
      figure={plan.ask.teeth}
      unit={`teeth, ${set.run_off}`}
      merit={set.merit}
      head={set.head}
      verdict={set.sheet.verdict}
      records="Record that these trains are on the machine now"
      pdf={props.pdf}
      print={props.print}
      record={props.record}
    >
      {set.caution && set.goes_on && <Warning text={set.caution} />}
      <Reasons of={set} />
      {set.setting
        .filter((figure) => figure.wrong)
        .map(({ label, text }) => (
          <Warning key={label} label={label} text={text} />
        ))}
      {set.moved.map((text) => (
        <Remark key={text} text={text} />
      ))}
      <Segmented
        label="Part of the sheet"
        className="mt-3 text-fine"
        value={part}
        options={[
          ["sheet", "Work"],
          ["setting", "Setting up"],
          ["wheel", "Wheel"],
        ]}
        onChange={setPart}
      />
      {part === "sheet" && set.goes_on && <Work sheet={set.sheet} check={props.children} />}
      {part === "setting" && (
        <div className="mt-2">
          {set.swivel && <SwivelDrawing swivel={set.swivel} />}
          {set.travel && <TravelDrawing travel={set.travel} />}
          <Figures figures={set.setting} />
          <Materials material={props.material} change={props.setMaterial} />
          <Assumptions lines={plan.ask.assumptions} />
        </div>
      )}
      {part === "wheel" && <HobbedWheel plan={plan} />}
    </SheetFrame>
  );
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
