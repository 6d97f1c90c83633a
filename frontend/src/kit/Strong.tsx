/** Text in which `**` stands round what is set strongly: tooth numbers, distances, readings. */
export function Strong({ text }: { text: string }) {
  return text.split("**").map((part, n) =>
    n % 2 ? (
      <b key={n} className="font-mono">
        {part}
      </b>
    ) : (
      part
    ),
  );
}
