/** The answers that this page has, so that the server need not send again what is as it was. */

// Answers that are kept, and how long one may be, characters.
const [MOST, LONGEST] = [60, 500_000];
const UNCHANGED = 304;

interface Answer {
  tag: string;
  text: string;
  type: string;
}

const held = new Map<string, Answer>();

/** Ask for something with GET; the answer is as if it had been sent whole. */
export async function fetchUnlessHeld(request: Request): Promise<Response> {
  const { url } = request;
  const before = held.get(url);
  if (before) request.headers.set("If-None-Match", before.tag);
  const response = await fetch(request);
  if (response.status === UNCHANGED && before) {
    keep(url, before);
    return answerOf(before, response);
  }
  const tag = response.headers.get("ETag");
  if (!response.ok || tag === null) {
    held.delete(url);
    return response;
  }
  const type = response.headers.get("Content-Type") ?? "";
  const answer = { tag, text: await response.text(), type };
  if (answer.text.length <= LONGEST) keep(url, answer);
  return answerOf(answer, response);
}

function keep(url: string, answer: Answer) {
  held.delete(url);
  held.set(url, answer);
  const [oldest] = held.keys();
  if (held.size > MOST && oldest !== undefined) held.delete(oldest);
}

function answerOf({ text, type }: Answer, sent: Response): Response {
  const headers = new Headers(sent.headers);
  headers.set("Content-Type", type);
  return new Response(text, { headers });
}
