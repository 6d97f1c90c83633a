/** What is shown is what the shop holds, whoever changed it. */
import type { QueryClient } from "@tanstack/react-query";

import { listen } from "./events";
import { PRESENCE } from "./presence";
import { serverThere, shopChanged } from "./send";
import { unsaved } from "./unsaved";

// ms: what came while the page was loading came with it; and how long after one change further ones are gathered.
const [LOADED, SOON] = [5000, 150];
// Changes that are remembered.
const MOST_KNOWN = 50;

export function keepFresh(client: QueryClient): void {
  // Whatever the shop's change is about, everything that is shown is asked again: a cutter saved changes a chart's
  // advice. What is still on its way was answered before the change, and is let go.
  const ofTheShop = {
    predicate: ({ queryKey }: { queryKey: readonly unknown[] }) => queryKey[0] !== PRESENCE,
  };
  const askAgain = () =>
    void client.cancelQueries(ofTheShop).then(() => client.invalidateQueries(ofTheShop));
  // A change of this page is told twice: by the answer to it and by the stream.
  const known = new Set<number>();
  const isNews = (change: number | null) => {
    if (change === null) return true;
    if (known.has(change)) return false;
    if (known.size === MOST_KNOWN) known.clear();
    known.add(change);
    return true;
  };
  serverThere.listen((there) => there && askAgain());
  let gathering = false;
  let more = false;
  let later = false;
  // The first change is asked for at once, those that follow on its heels together.
  const ask = () => {
    later = false;
    more = gathering;
    if (gathering) return;
    gathering = true;
    askAgain();
    window.setTimeout(() => {
      gathering = false;
      if (more) ask();
    }, SOON);
  };
  // Beside what is typed stands what it was typed over, so that whose change stands can be asked. A page that nobody
  // sees leaves the server to those that somebody looks at.
  const askInTime = () => {
    if (later && unsaved.get() === 0 && !document.hidden) ask();
  };
  shopChanged.listen((change) => {
    if (isNews(change) || later) {
      later = false;
      askAgain();
    }
  });
  listen((news) => {
    if ("restored" in news) location.reload();
    const away = "missed" in news && performance.now() > LOADED;
    const changed = "changed" in news && isNews(news.changed);
    if (!away && !changed) return;
    later = true;
    askInTime();
  });
  unsaved.listen(askInTime);
  document.addEventListener("visibilitychange", askInTime);
}
