/** A size as people read it. */
export function bytes(n: number): string {
  if (n >= 1e9) return `${(n / 1e9).toFixed(2)} GB`;
  return n >= 1e5 || n === 0 ? `${(n / 1e6).toFixed(n === 0 ? 0 : 1)} MB` : `${Math.ceil(n / 1e3)} kB`;
}
