/** What is asked as the end of an address; what is not said is left out. */
export function inAddress(values: Record<string, string | number | undefined>): string {
  return new URLSearchParams(
    Object.entries(values).flatMap(([name, value]): [string, string][] =>
      value === undefined || value === "" ? [] : [[name, String(value)]],
    ),
  ).toString();
}
