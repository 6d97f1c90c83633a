/** A key that nobody else makes, for something that is told once: 32 hexadecimal digits. Works on a page without a secure
 * context too, where the browser makes no keys itself. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
}
