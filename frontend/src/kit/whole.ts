/** What is typed as a whole number; none where it is none. */
export function whole(typed: string): number {
  return Number(typed.replace(/\D/g, "")) || 0;
}
