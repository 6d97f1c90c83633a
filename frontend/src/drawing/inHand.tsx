import {
  createContext,
  type KeyboardEvent,
  type PointerEvent as Pressed,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";

import type { Change } from "../api/planned";

/** A wheel in the hand: off the shelf, or out of the train at a place. */
export type Held = { teeth: number; at?: number };

/** Where a wheel may be put: in the place of another, between two that mesh, back on the shelf. */
export type Target =
  { kind: "wheel"; at: number } | { kind: "mesh"; after: number } | { kind: "shelf" };

interface InHand {
  held?: Held;
  take: (held?: Held) => void;
  drop: (target: Target) => void;
  /** Pressing a wheel: dragged off it is put down where it is let go; only tapped it stays in the hand. */
  press: (event: Pressed, held: Held, target?: Target) => void;
}

const Context = createContext<InHand | undefined>(undefined);

// px that a finger may slip before a tap is a drag.
const SLIP = 6;

/** Lets wheels be taken from the shelf or the train and put elsewhere, by dragging, by tapping twice, or by keys. */
export function InHandProvider({
  put,
  children,
}: {
  put: (held: Held, target: Target) => void;
  children: ReactNode;
}) {
  const [held, setHeld] = useState<Held>();
  const [at, setAt] = useState<{ x: number; y: number }>();
  const latest = useRef({ held, put });
  useEffect(() => {
    latest.current = { held, put };
  });
  const drop = useCallback((target: Target) => {
    const { held: now, put: putNow } = latest.current;
    setHeld(undefined);
    if (now) putNow(now, target);
  }, []);
  const press = useCallback(
    (event: Pressed, pressed: Held, target?: Target) => {
      if (event.button !== 0) return;
      const [x0, y0] = [event.clientX, event.clientY];
      let dragged = false;
      const done = new AbortController();
      const { signal } = done;
      addEventListener(
        "pointermove",
        (e) => {
          dragged ||= Math.hypot(e.clientX - x0, e.clientY - y0) > SLIP;
          if (!dragged) return;
          e.preventDefault();
          setHeld(pressed);
          setAt({ x: e.clientX, y: e.clientY });
        },
        { signal },
      );
      const end = (e: PointerEvent) => {
        done.abort();
        setAt(undefined);
        if (dragged) {
          latest.current.held = pressed;
          const under = document
            .elementFromPoint(e.clientX, e.clientY)
            ?.closest<Element>("[data-drop]");
          const place = targetOf(under?.getAttribute("data-drop"));
          if (e.type === "pointerup" && place) drop(place);
          else setHeld(undefined);
        } else if (latest.current.held && target) drop(target);
        else setHeld(pressed);
      };
      addEventListener("selectstart", (e) => e.preventDefault(), { signal });
      addEventListener("pointerup", end, { signal });
      addEventListener("pointercancel", end, { signal });
    },
    [drop],
  );
  useEffect(() => {
    if (!held) return;
    const pressed = (event: globalThis.KeyboardEvent) =>
      event.key === "Escape" && setHeld(undefined);
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [held]);
  const value = useMemo(() => ({ held, take: setHeld, drop, press }), [held, drop, press]);
  return (
    <Context value={value}>
      {children}
      {held && at && (
        <div
          aria-hidden
          className="pointer-events-none fixed z-50 grid size-16 -translate-1/2 place-items-center rounded-full border-3 border-brass-line bg-brass-bg font-mono text-title font-bold text-brass shadow-lg"
          style={{ left: at.x, top: at.y }}
        >
          {held.teeth}
        </div>
      )}
    </Context>
  );
}

/** The hand, where wheels can be moved; undefined where they are only shown. */
export function useInHand() {
  return useContext(Context);
}

/** Enter or space does what a tap does. */
export function onEnter(action: () => void) {
  return (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    event.stopPropagation();
    action();
  };
}

export function dropName(target: Target): string {
  return target.kind === "wheel"
    ? `wheel:${target.at}`
    : target.kind === "mesh"
      ? `mesh:${target.after}`
      : "shelf";
}

function targetOf(name: string | null | undefined): Target | undefined {
  if (!name) return undefined;
  const [kind, number] = name.split(":");
  if (kind === "wheel") return { kind, at: Number(number) };
  if (kind === "mesh") return { kind, after: Number(number) };
  return { kind: "shelf" };
}

/** What putting a wheel somewhere does to the train. */
export function changeOf(held: Held, target: Target): Change | undefined {
  const { teeth, at } = held;
  if (target.kind === "shelf") return at === undefined ? undefined : { change: "out", at };
  if (target.kind === "mesh")
    return at === undefined ? { change: "idler", at: target.after, teeth } : undefined;
  if (at === undefined) return { change: "put", at: target.at, teeth };
  return at === target.at ? undefined : { change: "swap", at, other: target.at };
}
