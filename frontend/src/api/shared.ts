import { useSyncExternalStore } from "react";

/** Something that happens, and who wants to know of it. */
export class Happening<T> {
  private listeners = new Set<(next: T) => void>();

  listen = (listener: (next: T) => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  tell(next: T) {
    for (const listener of this.listeners) listener(next);
  }
}

/** A value of the whole page, outside every component; told each time that it changes. */
export class Shared<T> extends Happening<T> {
  constructor(private now: T) {
    super();
  }

  get = () => this.now;

  set(next: T) {
    if (next === this.now) return;
    this.now = next;
    this.tell(next);
  }
}

export function useShared<T>(shared: Shared<T>): T {
  return useSyncExternalStore(shared.listen, shared.get);
}
