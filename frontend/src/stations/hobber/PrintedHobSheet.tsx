import type { Outline } from "../../api/client";
import type { SetUp } from "../../api/hobbing";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { Nut } from "../../planning/Nut";
import { PrintedEnd, PrintedSaid, PrintedShafts, PrintedSteps } from "../../planning/StepList";

// Drawings side by side on paper, 182 mm across at 96 px to the inch.
const [ACROSS, HEIGHT] = [680, 180];

/** The hobber's sheet for paper: black on white, one page of A4. Only the printer sees it. */
export function PrintedHobSheet({
  set,
  outlines,
  machine,
}: {
  set: SetUp;
  outlines: Outline[];
  machine: string;
}) {
  const { sheet } = set;
  return (
    <article
      className="hidden text-[7.2pt] leading-[1.12] text-black print:block [&_li]:mb-0.5 [&_ol]:mt-1.5 [&_table]:mt-0.5 [&_td]:py-0"
      aria-hidden
    >
      <header className="border-b-2 border-black pb-1">
        <h1 className="text-[15pt] leading-tight font-bold">
          {sheet.title} on {sheet.machine}
        </h1>
        <p className="flex items-center gap-2 text-[10pt] font-bold">
          <Nut plain merit={set.merit} size={16} /> {set.head}.
        </p>
        <p>
          {set.verdict} {set.faster}
        </p>
      </header>
      <div className="mt-1 flex">
        {set.drawn.map((box) => (
          <figure key={box.box}>
            <figcaption className="font-bold first-letter:uppercase">
              {box.name} <span className="font-mono">{box.text}</span>
            </figcaption>
            <QuadrantDrawing
              drawing={{ ...box.drawing, clearances: [] }}
              outlines={outlines}
              machine={machine}
              train={box.text}
              width={Math.floor(ACROSS / set.drawn.length)}
              height={HEIGHT}
              turning={false}
              terse
            />
          </figure>
        ))}
      </div>
      {sheet.boxes.map((box) => (
        <section key={box.name} className="mt-1">
          <h2 className="font-bold">
            {box.name}: <span className="font-mono">{box.train}</span> ({box.note})
          </h2>
          <PrintedShafts rows={box.shafts} />
        </section>
      ))}
      <PrintedSteps steps={sheet.steps} />
      <PrintedSaid title="Check before cutting" lines={sheet.proof} />
      <PrintedSaid title="After cutting" lines={sheet.after} />
      <PrintedEnd facts={sheet.facts} write="Measured" aid={sheet.aid} />
    </article>
  );
}
