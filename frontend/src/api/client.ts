import createClient from "openapi-fetch";

import { send } from "./send";
import type { components, paths } from "./schema";

export const api = createClient<paths>({ fetch: send });

export type Schemas = components["schemas"];
export type Plan = Schemas["PlanOut"];
/** A train as a list shows it. */
/** A train that is looked at. */
export type Candidate = Schemas["CandidateOut"];
export type Machine = Schemas["MachineOut"];
export type Shelf = Schemas["ShelfOut"];
export type Drawing = Schemas["Drawing"];
export type Outline = Schemas["ToothOutline"];
export type Reading = Schemas["ReadingOut"];
export type Problem = Schemas["Problem"];
export type Units = Schemas["Units"];
export type Order = Schemas["Order"];
export type Ask = Schemas["AskOut"];
export type ChartRow = Schemas["ChartRowOut"];
export type Rack = Schemas["RackOut"];
export type RackWheel = Schemas["RackWheel"];
export type Family = Schemas["RackFamily"];
export type LatheRecord = Schemas["LatheRecordIO"];
export type Goes = Schemas["VerdictOut"]["goes"];

/** A refusal by the server, with the fields it is about. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** The data of an answer; a problem is thrown as a `Refusal`, whatever else went wrong as `send` throws it. */
export async function answered<T>(call: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  const { data, error } = await call;
  if (error !== undefined) throw new Refusal(error as Problem);
  return data as T;
}

/** The answer to a request that is not one of JSON: a file sent, a stream read. */
export async function fetched(path: string, init?: RequestInit): Promise<Response> {
  const response = await send(path, init);
  if (!response.ok) throw new Refusal((await response.json()) as Problem);
  return response;
}

/** The answer to a picture that is sent. */
export function sendPicture(path: string, file: File): Promise<Response> {
  return fetched(path, {
    method: "POST",
    body: file,
    headers: { "Content-Type": file.type.startsWith("image/") ? file.type : "image/jpeg" },
  });
}

/** What was refused, by field: the sentence for the field, with what would do. */
export function refusedAt(error: Error | null): (field: string) => string | undefined {
  const problems = error instanceof Refusal ? (error.problem.errors ?? []) : [];
  return (field) => {
    const problem = problems.find((p) => p.field === field);
    return problem && `${problem.says} ${problem.would_do}`;
  };
}
