import type { Schemas } from "../../api/client";
import type { Plate } from "../../api/plates";
import { plannedKind } from "../../app/planned";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";

type Line = Plate["lines"][number];

const SIGNS: Record<Line["standing"], [string, string]> = {
  agrees: ["✓", "text-good"],
  approximate: ["≈", "text-soft"],
  wrong: ["✗", "text-oxide"],
  alone: ["?", "text-soft"],
};

/** Puts a line right in what was typed. */
export type Correct = (number: number, line: string) => void;

/** The lines that are wrong or could not be read, with what would put each right. */
export function WrongLines({ plate, correct }: { plate: Plate; correct: Correct }) {
  const wrong = plate.lines.filter((line) => line.standing === "wrong" || line.changes.length);
  if (!wrong.length && !plate.unread.length) return null;
  return (
    <Callout tone="wrong" className="mt-2 max-w-4xl text-lesser">
      <ul>
        {wrong.map((line) => (
          <li key={line.number} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
            <span>
              Line {line.number}: <code className="font-mono">{line.text}</code>
            </span>
            <span>{line.says}</span>
            {line.changes
              .filter((change) => change.line)
              .map((change) => (
                <Button
                  key={change.text}
                  aria-label={`Line ${line.number}: ${change.text}`}
                  onClick={() => correct(line.number, change.line)}
                >
                  Put {change.text}
                </Button>
              ))}
          </li>
        ))}
        {plate.unread.map((line) => (
          <li key={line.number} className="py-1">
            Line {line.number}: <code className="font-mono">{line.text}</code> {line.says}
          </li>
        ))}
      </ul>
    </Callout>
  );
}

/** The plate line by line: what each is found to be, and what the wheels could do for it. */
export function PlateTable(props: { plate: Plate; trains?: Schemas["LineTrainOut"][] }) {
  const { plate, trains } = props;
  const steps = plate.lines.some((line) => line.step);
  const beside = new Map(trains?.map((one) => [one.number, one]));
  return (
    <table className="mt-4 w-full max-w-5xl text-left text-lesser">
      <thead>
        <tr className="border-b-2 border-ink/60 text-fine text-soft">
          <th className="py-1 pr-3 font-normal">Line</th>
          <th className="py-1 pr-3 font-normal">{plannedKind(plate.kind)?.plate.begins}</th>
          <th className="py-1 pr-3 font-normal">Train</th>
          {steps && <th className="py-1 pr-3 font-normal">Position</th>}
          <th className="py-1 pr-3 font-normal">Found</th>
          {beside.size > 0 && <th className="py-1 font-normal">Best with the wheels held</th>}
        </tr>
      </thead>
      <tbody>
        {plate.lines.map((line) => {
          const [sign, colour] = SIGNS[line.standing];
          const best = beside.get(line.number);
          return (
            <tr
              key={line.number}
              className={`border-b border-line align-baseline ${line.standing === "wrong" ? "bg-oxide-bg" : ""}`}
            >
              <td className="py-1 pr-3 font-mono text-soft">{line.number}</td>
              <td className="py-1 pr-3 font-mono whitespace-nowrap">{line.target}</td>
              <td className="py-1 pr-3 font-mono">{line.train}</td>
              {steps && <td className="py-1 pr-3 font-mono whitespace-nowrap">{line.step}</td>}
              <td className="py-1 pr-3">
                <b className={`mr-1.5 ${colour}`} aria-hidden>
                  {sign}
                </b>
                {line.says}
              </td>
              {beside.size > 0 && (
                <td className="py-1">
                  {best?.train && best.says !== "the same" && (
                    <span className="font-mono">{best.train} </span>
                  )}
                  <span className="text-soft">{best?.says}</span>
                </td>
              )}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** The plate printed anew: wrong lines as they should stand, where that is clear. */
export function PrintedPlate({ name, plate }: { name: string; plate: Plate }) {
  const steps = plate.lines.some((line) => line.step);
  return (
    <section className="hidden print:block" aria-label="Plate, printed">
      <h1 className="text-xl font-bold">{name}: wheels by the plate</h1>
      <table className="mt-2 text-left">
        <thead>
          <tr className="border-b-2">
            <th className="pr-6">{plannedKind(plate.kind)?.plate.begins}</th>
            <th className="pr-6">Wheels</th>
            {steps && <th className="pr-6">Position</th>}
            <th>Note</th>
          </tr>
        </thead>
        <tbody>
          {plate.lines.map((line) => (
            <tr key={line.number} className="break-inside-avoid border-b">
              {line.right ? (
                <td className="pr-6 font-mono" colSpan={2}>
                  {line.right}
                </td>
              ) : (
                <>
                  <td className="pr-6 font-mono">{line.target}</td>
                  <td className="pr-6 font-mono">{line.train}</td>
                </>
              )}
              {steps && <td className="pr-6 font-mono">{line.step}</td>}
              <td>{note(line)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function note(line: Line) {
  if (line.standing === "wrong") return line.right ? `corrected: ${line.text}` : line.says;
  return line.standing === "agrees" ? "" : line.says;
}
