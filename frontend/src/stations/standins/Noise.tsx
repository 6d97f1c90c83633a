import { Choice } from "../../kit/Form";
import { Disclosure } from "../../kit/Disclosure";

const SHARES: [string, string][] = [
  ["0", "never"],
  ["0.1", "1 in 10"],
  ["0.5", "1 in 2"],
];
const LOSSES: [string, string][] = [
  ["0", "none"],
  ["0.02", "1 in 50"],
  ["0.2", "1 in 5"],
];
const BOUNCES: [string, string][] = [
  ["0", "none"],
  ["1", "small"],
  ["4", "large"],
];

/** What a real device does that one would rather it did not. Each as text, as it is chosen. */
export interface Noises {
  over: string;
  bounce: string;
  loss: string;
}
export const QUIET: Noises = { over: "0", bounce: "1", loss: "0" };

/** Choose it. `over`: what it is called when it goes too far; left out where nothing does. */
export function Noise({
  noises,
  change,
  over,
}: {
  noises: Noises;
  change: (next: Noises) => void;
  over?: string;
}) {
  return (
    <Disclosure title="Faults of the device">
      <div className="flex gap-2 pb-2">
        {over && (
          <Choice
            label={over}
            value={noises.over}
            options={SHARES}
            change={(next) => change({ ...noises, over: next })}
          />
        )}
        <Choice
          label="Bounce"
          value={noises.bounce}
          options={BOUNCES}
          change={(next) => change({ ...noises, bounce: next })}
        />
        <Choice
          label="Lost readings"
          value={noises.loss}
          options={LOSSES}
          change={(next) => change({ ...noises, loss: next })}
        />
      </div>
    </Disclosure>
  );
}
