import { useEffect, useState } from "react";

// Nothing is said of work that takes less than this, ms; of a page that stays white sooner.
const PATIENCE = 600;
export const PAGE_PATIENCE = 300;

/** A bar while something is worked out: how far it is where that is known, else that it moves. */
export function Working(props: { text: string; share?: number; patience?: number }) {
  const { text, share, patience = PATIENCE } = props;
  const [late, setLate] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLate(true), patience);
    return () => clearTimeout(timer);
  }, [patience]);
  if (!late) return null;
  return (
    <div
      role="progressbar"
      aria-label={text}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={share === undefined ? undefined : Math.round(share * 100)}
      className="py-2"
    >
      <p className="text-lesser text-soft">{text}</p>
      <div className="mt-1 h-2 overflow-hidden border border-steel-2 bg-paper">
        <div
          className={`h-full bg-blue ${share === undefined ? "w-1/3 motion-safe:animate-pulse" : ""}`}
          style={share === undefined ? undefined : { width: `${share * 100}%` }}
        />
      </div>
    </div>
  );
}
