import type { ComponentProps } from "react";

const TONES = {
  /** Something does not go, or is wrong. */
  wrong: "border-oxide bg-oxide-bg",
  /** Something to know before going on. */
  note: "border-brass-line bg-brass-bg",
  /** What helps further. */
  hint: "border-blue bg-blue-bg",
  /** It is as it should be. */
  good: "border-good bg-paper",
};
export type Tone = keyof typeof TONES;

/** A notice set off from what stands round it by a bar of its colour. */
export function Callout({
  tone,
  as: Tag = "div",
  small,
  className = "",
  ...rest
}: {
  tone: Tone;
  as?: "div" | "p" | "li";
  small?: boolean;
} & Omit<ComponentProps<"div">, "ref">) {
  return (
    <Tag
      className={`border-l-4 px-3 py-1.5 ${TONES[tone]} ${small ? "text-lesser" : ""} ${className}`}
      {...(rest as object)}
    />
  );
}
