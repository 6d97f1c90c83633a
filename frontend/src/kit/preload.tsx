import { type ComponentType, lazy, Suspense, useState } from "react";

// ms after which the first questions to the server are on their way.
const ASKED = 100;

/**
 * A component whose script is fetched after the first screen's, but before it is wanted. Once it is here it is drawn at
 * once: a lazy one would first show nothing for a while, however soon its script came.
 */
export function preload<P extends object>(load: () => Promise<ComponentType<P>>) {
  let here: ComponentType<P> | undefined;
  let loading: Promise<{ default: ComponentType<P> }> | undefined;
  const begin = () =>
    (loading ??= load().then((component) => {
      here = component;
      return { default: component };
    }));
  // Where it fails is said where the component would stand.
  setTimeout(() => begin().catch(() => undefined), ASKED);
  const Later = lazy(begin) as unknown as ComponentType<P>;
  return function Preloaded(props: P) {
    // As it began, so it stays: another component in its place would begin anew, with nothing of what was typed in it.
    const [Here] = useState(() => here);
    return Here ? (
      <Here {...props} />
    ) : (
      <Suspense fallback={null}>
        <Later {...props} />
      </Suspense>
    );
  };
}
