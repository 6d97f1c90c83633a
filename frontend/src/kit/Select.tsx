import * as Headless from "@headlessui/react";
import type { KeyboardEvent } from "react";

import { FIELD } from "./TextField";

const TURNS = new Set([
  "ArrowUp",
  "ArrowDown",
  "ArrowLeft",
  "ArrowRight",
  "PageUp",
  "PageDown",
  "Home",
  "End",
]);

/** A list to pick one from. A key opens it; nothing changes before one is chosen in it. */
export function Select({
  className = FIELD,
  ...props
}: Headless.SelectProps & { className?: string }) {
  return <Headless.Select {...props} className={className} onKeyDown={openFirst} />;
}

function openFirst(event: KeyboardEvent<HTMLElement>) {
  const list = event.currentTarget as HTMLSelectElement;
  const plain = !event.altKey && !event.ctrlKey && !event.metaKey;
  if (!plain || !(TURNS.has(event.key) || /^[\p{L}\p{N}]$/u.test(event.key)) || isOpen(list))
    return;
  event.preventDefault();
  list.showPicker?.();
}

function isOpen(list: HTMLSelectElement): boolean {
  try {
    return list.matches(":open");
  } catch {
    return false; // a browser that has no such word
  }
}
