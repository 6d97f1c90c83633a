/** What every station that plans trains does with the set-up that is looked at. */
import type { UseMutationResult } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import { useKey } from "../app/keys";
import { useTell } from "../app/Toast";
import { changeOf, type Held, type Target } from "../drawing/inHand";
import type { Outline } from "../api/client";
import type { Change, ChangeOutcome } from "../api/planned";

type AnswerWithOutlines = { outlines: Outline[] } | undefined;

/** Tooth outlines out of the answers that a station has: a train's own, the plan's, the shelf's. */
export function useOutlines(
  train: AnswerWithOutlines,
  plan: AnswerWithOutlines,
  shelf: AnswerWithOutlines,
) {
  return useMemo(
    () => [train, plan, shelf].flatMap((answer) => answer?.outlines ?? []),
    [train, plan, shelf],
  );
}

/** A slip that is looked at, forgotten when something else is asked. */
export function useSuspectedSlip<T>(about: string): [T | undefined, (slip: T | undefined) => void] {
  const [suspected, setSuspected] = useState<{ about: string; slip: T }>();
  const suspect = useCallback(
    (slip: T | undefined) => setSuspected(slip && { about, slip }),
    [about],
  );
  return [suspected?.about === about ? suspected.slip : undefined, suspect];
}

/** P prints, D takes the sheet as PDF, M records that it is on. */
export function useSheetKeys(
  set: { goes_on: boolean; fits: boolean; is_on: boolean } | undefined,
  ready: boolean,
  does: { print: () => void; address: string; record: () => void },
) {
  const shown = ready && set !== undefined;
  useKey("p", does.print, shown && set.goes_on);
  useKey("d", () => location.assign(does.address), shown && set.goes_on);
  useKey("m", does.record, shown && set.fits && !set.is_on, false);
}

interface Mount<T> {
  mutate: (typed: T, then: { onSuccess: () => void; onError: (error: Error) => void }) => void;
}

/** Record what is on a machine, and say so. */
export function useRecord<T>(mount: Mount<T>) {
  const tell = useTell();
  return (typed: T, text: string) =>
    mount.mutate(typed, {
      onSuccess: () => tell({ text: `Recorded: ${text}.`, done: true }),
      onError: (error) => tell({ text: `Not recorded: ${error.message}` }),
    });
}

/** Put a wheel on the drawing: the train with that change is asked for, and goes into the address. */
export function usePut(props: {
  train: string | undefined;
  about: string;
  /** Asks for the train with a change; undefined where wheels are not put by hand. */
  mutate: UseMutationResult<ChangeOutcome, Error, Change & { train: string }>["mutate"] | undefined;
  take: (train: string) => void;
}) {
  const tell = useTell();
  const now = useRef(props.about);
  useEffect(() => {
    now.current = props.about;
  });
  return (held: Held, target: Target) => {
    const { train: before, about } = props;
    const change = changeOf(held, target);
    if (!change || before === undefined) return;
    props.mutate?.(
      { ...change, train: before },
      {
        onSuccess: ({ candidate }) => {
          // Asked for something else meanwhile: this answer is of no use any more.
          if (now.current !== about) return;
          props.take(candidate.train);
          tell({
            text: `${candidate.text}: ${candidate.lead}, ${candidate.error}.`,
            back: () => props.take(before),
          });
        },
        onError: (error) => tell({ text: error.message }),
      },
    );
  };
}
