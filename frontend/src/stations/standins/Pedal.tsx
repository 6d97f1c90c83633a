import { type KeyboardEvent, useState } from "react";

import type { StandIn } from "../../api/standIns";
import { Noise, QUIET } from "./Noise";

// How often a contact closes and opens again for a small bounce.
const CLOSES = 2;

/** A pedal that is down while the button is. */
export function Pedal({ one }: { one: StandIn }) {
  const [down, setDown] = useState(false);
  const [noises, setNoises] = useState(QUIET);
  const press = (pressed: boolean) => {
    if (pressed === down) return;
    setDown(pressed);
    const bounces = Number(noises.bounce) * CLOSES;
    for (const now of [...Array.from({ length: bounces }, (_, n) => n % 2 === 0), pressed])
      if (Math.random() >= Number(noises.loss)) one.say({ pressed: now === true });
  };
  const held = (event: KeyboardEvent) => event.key === " " || event.key === "Enter";
  return (
    <>
      <button
        type="button"
        aria-pressed={down}
        style={{ touchAction: "none" }}
        className={`min-h-24 w-full rounded-sm border-2 border-ink text-heading font-bold ${down ? "translate-y-1 bg-steel" : "bg-paper"}`}
        onPointerDown={() => press(true)}
        onPointerUp={() => press(false)}
        onPointerLeave={() => press(false)}
        onPointerCancel={() => press(false)}
        onKeyDown={(event) => held(event) && !event.repeat && press(true)}
        onKeyUp={(event) => held(event) && press(false)}
        onBlur={() => press(false)}
      >
        {down ? "Down" : "Press"}
      </button>
      <Noise noises={noises} change={setNoises} />
    </>
  );
}
