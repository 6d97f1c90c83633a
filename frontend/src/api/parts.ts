/** Asks again from where an answer stopped, until all of it is there: what one question may cost has a bound. */
export async function inParts<Part extends { next: number | null }>(
  first: number,
  ask: (first: number) => Promise<Part>,
): Promise<Part[]> {
  const parts = [await ask(first)];
  for (let next = parts[0]!.next; next !== null; next = parts[parts.length - 1]!.next)
    parts.push(await ask(next));
  return parts;
}
