/** What the server tells without being asked. A browser has few connections: its tabs share one stream. */
import type { Schemas } from "./client";
import { newKey } from "./key";

export interface DeviceNews {
  device: number;
  sort: Schemas["DeviceOut"]["sort"];
  value?: string | number | null;
  came?: string;
}
type News =
  | { session: number; seen: number }
  | DeviceNews
  /** A page came to the session of this job, or left it. */
  | { present: number }
  /** The shop was changed, by this page or another. */
  | { changed: number | null }
  /** A copy was put in the place of the shop: nothing that is shown holds any more. */
  | { restored: true }
  /** Something may have been missed: the stream was away, or the page did not keep up. */
  | { missed: true };

/** What tabs say to each other: news, that one of them listens for all, that it leaves. */
type TabMessage = { news: News } | { leads: string; hidden: boolean } | { leaves: string };

// ms after which a tab that leads says so again, and after which another one takes over.
const [SAY, TAKE_OVER] = [1000, 2600];
// ms between two tries where the server refused the stream: not signed in, or too many connections.
const TRY_AGAIN = 5000;

const listeners = new Set<(news: News) => void>();
const me = newKey();
let tabs: BroadcastChannel | undefined;
let stream: EventSource | undefined;
let stopped = false;
let lastHeard = 0;
let lastTried = 0;

/** Be told of everything; gives what ends that. */
export function listen(listener: (news: News) => void): () => void {
  listeners.add(listener);
  if (listeners.size === 1 && !tabs) begin();
  return () => void listeners.delete(listener);
}

function begin() {
  tabs = new BroadcastChannel("valleywind-events");
  tabs.onmessage = ({ data }: MessageEvent<TabMessage>) => hear(data);
  addEventListener("pagehide", () => {
    stopped = true;
    if (stream) say({ leaves: me });
    close();
  });
  // Out of the browser's memory again.
  addEventListener("pageshow", (event) => {
    if (!event.persisted) return;
    stopped = false;
    lead();
  });
  // A tab that one looks at listens itself: one that is hidden may be put to sleep.
  document.addEventListener("visibilitychange", () => {
    if (!document.hidden) lead();
  });
  lead();
  setInterval(() => {
    // A browser gives up a stream that was refused; one that was cut it mends by itself.
    const refused = stream?.readyState === EventSource.CLOSED;
    if (refused && Date.now() - lastTried > TRY_AGAIN) {
      close();
      lead();
    }
    if (stream) say({ leads: me, hidden: document.hidden });
    else if (!stopped && Date.now() - lastHeard > TAKE_OVER) lead();
  }, SAY);
}

function say(what: TabMessage) {
  tabs?.postMessage(what);
}

function lead() {
  if (stream) return;
  say({ leads: me, hidden: document.hidden });
  lastTried = Date.now();
  stream = new EventSource("/api/events");
  // What came while nobody listened is asked for.
  stream.onopen = () => pass({ missed: true });
  stream.onmessage = ({ data }: MessageEvent<string>) => pass(JSON.parse(data) as News);
}

function pass(news: News) {
  say({ news });
  tell(news);
}

function tell(news: News) {
  for (const listener of listeners) listener(news);
}

function close() {
  stream?.close();
  stream = undefined;
}

function hear(message: TabMessage) {
  if ("news" in message) return tell(message.news);
  if ("leaves" in message) return void (lastHeard = 0);
  lastHeard = Date.now();
  if (!stream) return;
  // Of two that listen the one that is seen goes on; of two alike, the first by its name.
  const gives = document.hidden === message.hidden ? message.leads < me : document.hidden;
  if (gives) close();
  else say({ leads: me, hidden: document.hidden });
}
