import { Field, Input, Label } from "@headlessui/react";
import { useEffect, useState } from "react";

import type { Asked } from "../../api/questions";
import { Button } from "../../kit/Button";

/** Diameter and length of the nut, for those who want to state them; empty means as usual. */
export function LengthFields({ asked, set }: { asked: Asked; set: (changes: Record<string, string>) => void }) {
  const [diameter, setDiameter] = useState(asked.diameter);
  const [engagement, setEngagement] = useState(asked.engagement);
  useEffect(() => setDiameter(asked.diameter), [asked.diameter]);
  useEffect(() => setEngagement(asked.engagement), [asked.engagement]);
  return (
    <form
      className="flex flex-col gap-2 pb-2"
      onSubmit={(event) => {
        event.preventDefault();
        set({ diameter: diameter.trim(), engagement: engagement.trim() });
      }}
    >
      <div className="flex gap-2">
        <Length label="Diameter" value={diameter} onChange={setDiameter} placeholder="14 mm, 1/2 in" />
        <Length label="Nut length" value={engagement} onChange={setEngagement} placeholder="0.8 diameters" />
      </div>
      <Button type="submit">Judge with these</Button>
    </form>
  );
}

function Length(props: { label: string; value: string; onChange: (value: string) => void; placeholder: string }) {
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
