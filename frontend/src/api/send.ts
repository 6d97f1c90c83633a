/** Every request to the server, and what is learned from every answer: is the server there, was the shop changed. */
import { fetchUnlessHeld } from "./answerCache";
import { newKey } from "./key";
import { Happening, Shared } from "./shared";

/** The server does not answer. */
export class Unreachable extends Error {
  constructor() {
    super(
      "The Valleywind server does not answer. Is it still running where you started it? What you typed is kept here.",
    );
  }
}

/** Something answered that is not Valleywind, such as a proxy on the way. */
export class NotOurs extends Error {
  constructor(status: number) {
    super(
      `Something between this page and Valleywind answered in its place (${status}). Is the address right, and is Valleywind running?`,
    );
  }
}

/** The shop was changed by a request of this page; told with the number of the change. */
export const shopChanged = new Happening<number>();
/** Whether the server answers, each time that this changes. */
export const serverThere = new Shared(true);

/** Whether the server asks this browser to sign in, each time that this changes. */
export const signedOut = new Shared(false);

const [CHANGE, ONCE] = ["Valleywind-Change", "Valleywind-Once"];
// Things that were sent and had no answer.
const MOST_UNANSWERED = 50;
const NOT_SIGNED_IN = 401;
const LOOK_AGAIN = 2000;
let looking = false;

/** Whether the server is there at all, when one request came to nothing; if not, it is looked for until it is. */
async function look() {
  if (looking) return;
  looking = true;
  for (;;) {
    const now = await answers();
    serverThere.set(now);
    if (now) break;
    await new Promise((done) => setTimeout(done, LOOK_AGAIN));
  }
  looking = false;
}

async function answers(): Promise<boolean> {
  try {
    const response = await fetch("/api/shop");
    return (response.headers.get("Content-Type") ?? "").includes("json");
  } catch {
    return false;
  }
}

const unanswered = new Map<string, string>();

/** What changes something has a key. Sent again because no answer came it keeps the key, so that it is done once. */
async function withKey(input: Request | string) {
  // What a page that goes away says is sent at once.
  const plain = typeof input === "string" || input.method === "GET" || input.keepalive;
  if (plain) return undefined;
  const about = `${input.method} ${input.url} ${await input.clone().text()}`;
  const key = unanswered.get(about) ?? newKey();
  if (unanswered.size === MOST_UNANSWERED) unanswered.clear();
  unanswered.set(about, key);
  input.headers.set(ONCE, key);
  return about;
}

export async function send(input: Request | string, init?: RequestInit): Promise<Response> {
  let response: Response;
  const about = await withKey(input);
  try {
    const whole = typeof input === "string" || input.method !== "GET";
    response = await (whole ? fetch(input, init) : fetchUnlessHeld(input));
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    void look();
    throw new Unreachable();
  }
  const type = response.headers.get("Content-Type") ?? "";
  if (type.includes("text/html") || (!response.ok && !type.includes("json"))) {
    void look();
    throw new NotOurs(response.status);
  }
  if (about) unanswered.delete(about);
  signedOut.set(response.status === NOT_SIGNED_IN);
  const change = response.headers.get(CHANGE);
  if (change !== null) shopChanged.tell(Number(change));
  return response;
}
