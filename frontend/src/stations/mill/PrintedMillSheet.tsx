import type { Outline } from "../../api/client";
import type { HelixSetting, HelixSetUp } from "../../api/milling";
import { PlanViewDrawing } from "../../drawing/PlanViewDrawing";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { meritOf, Nut } from "../../planning/Nut";
import { PrintedEnd, PrintedSaid, PrintedShafts, PrintedSteps } from "../../planning/StepList";

// Drawings side by side on paper, 182 mm across at 96 px to the inch.
const [ACROSS, HEIGHT] = [680, 216];

/** The mill's sheet for paper: black on white, one page of A4. Only the printer sees it. */
export function PrintedMillSheet({
  set,
  setting,
  outlines,
  machine,
}: {
  set: HelixSetUp;
  setting: HelixSetting;
  outlines: Outline[];
  machine: string;
}) {
  const { sheet } = set;
  return (
    <article
      className="hidden text-[7.6pt] leading-[1.15] text-black print:block [&_li]:mb-0.5 [&_ol]:mt-1.5 [&_table]:mt-0.5 [&_td]:py-0"
      aria-hidden
    >
      <header className="border-b-2 border-black pb-1">
        <h1 className="text-[15pt] leading-tight font-bold">
          {sheet.title} on {sheet.machine}
        </h1>
        <p className="font-mono text-[12pt] font-bold">
          {sheet.train} {sheet.pair && <span className="ml-3">{sheet.pair}</span>}
        </p>
        <p className="flex items-center gap-2">
          <Nut plain merit={meritOf(set.goes, set.relative_error === 0)} size={16} />
          <span>
            <b>{sheet.head}.</b> {sheet.verdict}
          </span>
        </p>
      </header>
      <div className="mt-1 flex">
        <QuadrantDrawing
          drawing={{ ...set.drawing, clearances: [] }}
          outlines={outlines}
          machine={machine}
          train={set.text}
          width={ACROSS / 2}
          height={HEIGHT}
          turning={false}
          terse
        />
        {setting.view && (
          <PlanViewDrawing
            view={setting.view}
            machine={machine}
            width={ACROSS / 2}
            height={HEIGHT}
            plain
          />
        )}
      </div>
      <PrintedShafts rows={sheet.shafts} />
      <PrintedSteps steps={sheet.steps} />
      <PrintedSaid title="Check by hand before the cutter touches" lines={sheet.proof} />
      <PrintedEnd facts={sheet.facts} write="Read" aid={sheet.aid} />
    </article>
  );
}
