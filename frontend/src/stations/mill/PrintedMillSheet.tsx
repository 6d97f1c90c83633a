import type { Outline } from "../../api/client";
import type { HelixSetting, HelixSetUp } from "../../api/milling";
import { PlanViewDrawing } from "../../drawing/PlanViewDrawing";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { Strong } from "../../kit/Strong";
import { meritOf, Nut } from "../../planning/Nut";
import { PrintedShafts, PrintedSteps } from "../../planning/StepList";

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
      <h2 className="font-bold">Check by hand before the cutter touches</h2>
      <p>
        {sheet.proof.map((told) => (
          <span key={told}>
            <Strong text={told} />{" "}
          </span>
        ))}
      </p>
      <dl className="mt-1 grid grid-cols-2 gap-x-4">
        {sheet.facts.map(({ label, text }) => (
          <div key={label} className="flex gap-2">
            <dt className="shrink-0 text-soft">{label}</dt>
            <dd>{text}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1">Read: ____________ Date: ____________</p>
      <p className="mt-1 text-soft">{sheet.aid}</p>
    </article>
  );
}
