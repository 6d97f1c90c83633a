import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import type { ReactNode } from "react";

/** Something that is opened when it is wanted. */
export function Fold({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Disclosure as="div" className="border-t border-line pt-1">
      <DisclosureButton className="group flex min-h-11 w-full items-center gap-2 text-left text-[15px] font-bold text-blue">
        <span aria-hidden className="group-data-open:rotate-90">
          ▸
        </span>
        {title}
      </DisclosureButton>
      <DisclosurePanel>{children}</DisclosurePanel>
    </Disclosure>
  );
}
