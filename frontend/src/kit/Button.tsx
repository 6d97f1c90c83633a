import type { ButtonHTMLAttributes } from "react";

const BASE =
  "inline-flex min-h-11 min-w-11 items-center justify-center gap-2 whitespace-nowrap rounded-sm border px-4 text-lesser font-bold disabled:cursor-not-allowed disabled:opacity-50";
const LOOKS = {
  main: "border-enamel bg-enamel text-[#f7f6f0] dark:border-good dark:bg-enamel-2",
  plain: "border-ink/70 bg-paper text-ink hover:bg-blue-bg dark:border-good",
  quiet: "border-line bg-paper text-ink hover:border-ink",
};

type Look = keyof typeof LOOKS;

export function buttonLook(look: Look = "plain") {
  return `${BASE} ${LOOKS[look]}`;
}

export function Button({
  look = "plain",
  className = "",
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look }) {
  return <button type="button" className={`${buttonLook(look)} ${className}`} {...rest} />;
}
