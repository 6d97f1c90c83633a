import { useEffect, useRef, useState } from "react";

/** Width and height of an element in px, as it is now. */
export function useSize<T extends HTMLElement>() {
  const element = useRef<T>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!element.current) return;
    const watch = new ResizeObserver(
      ([entry]) =>
        entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    watch.observe(element.current);
    return () => watch.disconnect();
  }, []);
  return [element, size] as const;
}
