import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type Calipers, useCalipers } from "../../api/questions";
import { Button } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";
import { Typed } from "../../kit/Typed";

/** Boss-to-boss readings turned into the place of the first shaft. */
export function CalipersHelp({ take }: { take: (x: number, y: number, firstRadius: number, lastRadius: number) => void }) {
  const [typed, setTyped] = useState<Calipers>({ over: "", first_boss: "", last_boss: "", height: "", side: "right" });
  const calipers = useCalipers();
  const put = (changes: Partial<Calipers>) => setTyped({ ...typed, ...changes });
  const wrong = refusedAt(calipers.error);
  return (
    <Disclosure>
      <DisclosureButton className="flex min-h-11 w-full items-center gap-2 text-left text-[15px] font-bold text-blue">
        <span aria-hidden>▸</span> Measure it with calipers
      </DisclosureButton>
      <DisclosurePanel className="flex flex-col gap-2 border-l-4 border-blue bg-blue-bg px-3 py-2">
        <p className="text-[15px]">Caliper over the outsides of both bosses, then each boss, then with a rule how much higher the first shaft’s middle stands. Isolate the lathe first.</p>
        <div className="flex gap-2">
          <Typed label="Over both bosses" value={typed.over} onChange={(over) => put({ over })} placeholder="198.8 mm" problem={wrong("over")} />
          <Typed label="Height between" value={typed.height} onChange={(height) => put({ height })} placeholder="168 mm" problem={wrong("height")} />
        </div>
        <div className="flex gap-2">
          <Typed label="First boss across" value={typed.first_boss} onChange={(first_boss) => put({ first_boss })} placeholder="32 mm" problem={wrong("first_boss")} />
          <Typed label="Screw’s collar across" value={typed.last_boss} onChange={(last_boss) => put({ last_boss })} placeholder="32 mm" problem={wrong("last_boss")} />
        </div>
        <Segmented label="Side" value={typed.side} options={[["right", "first shaft to the right"], ["left", "to the left"]]} onChange={(side) => put({ side })} />
        <Button
          onClick={() =>
            calipers.mutate(typed, {
              onSuccess: (found) => take(found.x_mm, found.y_mm, found.first_boss_radius_mm, found.last_boss_radius_mm),
            })
          }
        >
          Work out its place
        </Button>
        {calipers.data && (
          <p role="status" className="text-[15px]">
            {calipers.data.x_mm.toFixed(1)} mm to the side, {calipers.data.y_mm.toFixed(1)} mm up.
          </p>
        )}
      </DisclosurePanel>
    </Disclosure>
  );
}
