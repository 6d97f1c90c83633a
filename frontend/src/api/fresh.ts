/** What is shown is what the shop holds, whoever changed it. */
import type { QueryClient } from "@tanstack/react-query";

import { listen } from "./events";
import { serverThere, shopChanged } from "./send";
import { unsaved } from "./unsaved";

// ms: what came while the page was loading came with it; and how long after one change further ones are gathered.
const [LOADED, SOON] = [5000, 150];
// Changes of this page that its own stream has not told yet.
const MOST_OWN = 50;

export function keepFresh(client: QueryClient): void {
  // Whatever the shop's change is about, everything that is shown is asked again: a cutter saved changes a chart's
  // advice. What is still on its way was answered before the change, and is let go.
  const askAgain = () => void client.cancelQueries().then(() => client.invalidateQueries());
  const own = new Set<number | null>();
  shopChanged.listen((change) => {
    if (own.size === MOST_OWN) own.clear();
    own.add(change);
    askAgain();
  });
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
  listen((news) => {
    if ("restored" in news) location.reload();
    const away = "missed" in news && performance.now() > LOADED;
    const changed = "changed" in news && !own.delete(news.changed);
    if (!away && !changed) return;
    // Beside what is typed stands what it was typed over, so that whose change stands can be asked.
    if (unsaved.get() > 0) later = true;
    else ask();
  });
  unsaved.listen((number) => number === 0 && later && ask());
}
