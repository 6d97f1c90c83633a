import { Radio, RadioGroup } from "@headlessui/react";

/** Two or three choices side by side, one of them taken. */
export function Segmented<T extends string>(props: {
  label: string;
  value: T;
  options: [T, string][];
  onChange: (value: T) => void;
  className?: string;
}) {
  return (
    <RadioGroup
      aria-label={props.label}
      value={props.value}
      onChange={props.onChange}
      className={`flex overflow-hidden rounded-sm border border-ink/50 ${props.className ?? ""}`}
    >
      {props.options.map(([value, text]) => (
        <Radio
          key={value}
          value={value}
          className="flex min-h-11 flex-1 cursor-pointer items-center justify-center bg-paper px-3 text-center text-lesser whitespace-nowrap text-ink data-checked:bg-enamel data-checked:font-bold data-checked:text-[#f7f6f0] data-focus:outline-3 data-focus:-outline-offset-3 data-focus:outline-blue data-focus:data-checked:outline-[#f3e4c4] dark:data-checked:bg-enamel-2"
        >
          {text}
        </Radio>
      ))}
    </RadioGroup>
  );
}
