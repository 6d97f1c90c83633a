import { Description, Field, Input, Label } from "@headlessui/react";

export const FIELD = "min-h-11 w-full rounded-sm border border-steel-2 bg-paper px-2";

/** A field to type in, with what is wrong with it beneath. */
export function TextField(props: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What could be typed. Shown so that it is not taken for what was. */
  example?: string;
  problem?: string;
  numeric?: boolean;
  className?: string;
}) {
  return (
    <Field className={`min-w-0 flex-1 ${props.className ?? ""}`}>
      <Label className="text-[14px] text-soft">{props.label}</Label>
      <Input
        value={props.value}
        onChange={(event) => props.onChange(event.target.value)}
        placeholder={props.example && `e.g. ${props.example}`}
        inputMode={props.numeric ? "decimal" : undefined}
        invalid={props.problem !== undefined}
        autoComplete="off"
        className={`${FIELD} font-mono placeholder:font-sans placeholder:text-[14px] placeholder:text-soft placeholder:italic data-invalid:border-oxide data-invalid:bg-oxide-bg`}
      />
      {props.problem && (
        <Description as="p" role="alert" className="mt-1 text-[14px] text-oxide">
          {props.problem}
        </Description>
      )}
    </Field>
  );
}
