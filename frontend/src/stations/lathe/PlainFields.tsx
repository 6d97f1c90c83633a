import { Field, Input, Label } from "@headlessui/react";
import { useEffect, useState } from "react";

import type { Plan } from "../../api/client";
import type { Asked } from "../../api/questions";
import { Button } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";

/** The ask in fields, for those who prefer them to the line. Empty lengths mean as usual. */
export function PlainFields({ ask, asked, set }: { ask: Plan["ask"]; asked: Asked; set: (changes: Record<string, string>) => void }) {
  const start = { pitch: ask.pitch, starts: String(ask.starts), hand: ask.hand, diameter: asked.diameter, engagement: asked.engagement };
  const [typed, setTyped] = useState(start);
  const key = JSON.stringify(start);
  useEffect(() => setTyped(JSON.parse(key) as typeof start), [key]);
  const put = (changes: Partial<typeof start>) => setTyped({ ...typed, ...changes });
  const submit = () => {
    const same = typed.pitch === start.pitch && typed.starts === start.starts && typed.hand === start.hand;
    // A thread keeps its name, and with it its flanks, as long as the pitch is its own.
    const name = typed.pitch === start.pitch ? ask.named : null;
    const starts = typed.starts.trim() === "1" ? "" : `${typed.starts.trim()} starts`;
    const line = [name ?? `pitch ${typed.pitch.trim()}`, starts, typed.hand === "left" ? "left hand" : "", ask.over].filter(Boolean).join(" ");
    const diameter = typed.diameter.trim() || (same || name || !ask.diameter_mm ? "" : `${ask.diameter_mm} mm`);
    set({ ask: same ? asked.ask : line, diameter, engagement: typed.engagement.trim(), train: "" });
  };
  return (
    <form
      className="flex flex-col gap-2 pb-2"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div className="flex gap-2">
        <Typed label="Pitch" value={typed.pitch} onChange={(pitch) => put({ pitch })} placeholder="2 mm, 26 tpi" />
        <Typed label="Starts" value={typed.starts} onChange={(starts) => put({ starts })} placeholder="1" />
      </div>
      <Segmented label="Hand" value={typed.hand} options={[["right", "Right hand"], ["left", "Left hand"]]} onChange={(hand) => put({ hand })} />
      <div className="flex gap-2">
        <Typed label="Diameter" value={typed.diameter} onChange={(diameter) => put({ diameter })} placeholder={ask.diameter_mm ? `${ask.diameter_mm} mm` : "14 mm, 1/2 in"} />
        <Typed label="Nut length" value={typed.engagement} onChange={(engagement) => put({ engagement })} placeholder="0.8 diameters" />
      </div>
      <Button type="submit">Ask with these</Button>
    </form>
  );
}

function Typed(props: { label: string; value: string; onChange: (value: string) => void; placeholder: string }) {
  return (
    <Field className="min-w-0 flex-1">
      <Label className="text-[14px] text-soft">{props.label}</Label>
      <Input
        value={props.value}
        onChange={(event) => props.onChange(event.target.value)}
        placeholder={props.placeholder}
        className="min-h-11 w-full rounded-sm border border-steel-2 bg-paper px-2 font-mono placeholder:font-sans placeholder:text-soft"
      />
    </Field>
  );
}
