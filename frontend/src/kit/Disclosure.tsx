import * as Headless from "@headlessui/react";
import type { ReactNode } from "react";

/** Something that is opened when it is wanted; `state` says in a word what is inside. */
export function Disclosure(props: {
  title: string;
  state?: string;
  open?: boolean;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Headless.Disclosure as="div" defaultOpen={props.open} className={props.className}>
      <Headless.DisclosureButton className="group flex min-h-11 w-full items-center gap-2 text-left text-lesser font-bold text-blue">
        <span aria-hidden className="group-data-open:rotate-90">
          ▸
        </span>
        <span className="flex-1">{props.title}</span>
        {props.state && <span className="text-right font-normal text-soft">{props.state}</span>}
      </Headless.DisclosureButton>
      <Headless.DisclosurePanel>{props.children}</Headless.DisclosurePanel>
    </Headless.Disclosure>
  );
}
