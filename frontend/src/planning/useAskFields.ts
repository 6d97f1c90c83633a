import { type FormEvent, useEffect, useRef, useState } from "react";

import { refusedAt } from "../api/client";

/** The question which ask some fields make. */
interface Question<Q> {
  mutate: (query: Q, done: { onSuccess: (made: { canonical: string }) => void }) => void;
  reset: () => void;
  error: Error | null;
}

/**
 * The ask in fields, for those who prefer them to the line: filled from an ask, and anew when another ask is answered.
 * What is typed while the answer to the fields themselves is on its way stays: a late answer takes nothing back.
 */
export function useAskFields<T, Q>(props: {
  start: T;
  canonical: string;
  question: Question<Q>;
  query: (typed: T) => Q;
  take: (ask: string) => void;
}) {
  const { question, canonical } = props;
  const { reset } = question;
  const [typed, setTyped] = useState(props.start);
  const typedSince = useRef(false);
  const made = useRef("");
  const key = JSON.stringify(props.start);
  useEffect(() => {
    if (typedSince.current && canonical === made.current) return;
    typedSince.current = false;
    setTyped(JSON.parse(key) as T);
    reset();
  }, [key, canonical, reset]);
  return {
    typed,
    put: (changes: Partial<T>) => {
      typedSince.current = true;
      setTyped((now) => ({ ...now, ...changes }));
    },
    wrong: refusedAt(question.error),
    submit: (event: FormEvent) => {
      event.preventDefault();
      // What is typed from now on is of the next ask.
      typedSince.current = false;
      question.mutate(props.query(typed), {
        onSuccess: (answer) => {
          made.current = answer.canonical;
          props.take(answer.canonical);
        },
      });
    },
  };
}
