/** Answers that tell how far they have come, and give their advice at last. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { fetched } from "./client";

/** A line of an answer that tells how far it has come. */
interface Line<Advice> {
  share: number;
  advice: Advice | null;
  problem: string;
}

/** Which wheels are worth making; kept until the wheels change. `share`: how much of the work is done. */
export function useAdvice<Advice>(machine: string, address: string) {
  const [share, setShare] = useState(0);
  const { data, error, isPending, isFetching, refetch } = useQuery({
    queryKey: ["machines", machine, "worth", address],
    staleTime: Infinity,
    queryFn: ({ signal }) => {
      setShare(0);
      return advised<Advice>(address, signal, setShare);
    },
  });
  return { data, error, isPending, isFetching, refetch, share };
}

async function advised<Advice>(
  address: string,
  signal: AbortSignal,
  progress: (share: number) => void,
): Promise<Advice> {
  const response = await fetched(address, { signal });
  if (response.body)
    for await (const line of linesOf(response.body)) {
      const part = JSON.parse(line) as Line<Advice>;
      if (part.problem) throw new Error(part.problem);
      progress(part.share);
      if (part.advice) return part.advice;
    }
  throw new Error("The answer broke off.");
}

/** The lines of a stream, as they come. */
async function* linesOf(body: ReadableStream<Uint8Array>) {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    rest += decoder.decode(value, { stream: !done });
    const lines = rest.split("\n");
    rest = lines.pop() ?? "";
    yield* lines.filter(Boolean);
    if (done) return;
  }
}
