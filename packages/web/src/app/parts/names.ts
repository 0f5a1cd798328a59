/** `Rosalind Oakhanger` → `R. Oakhanger`: as names stand on a shelf and in a row. */
export const initialed = (name: string): string => name.replace(/^(\p{L})\p{L}+\s+(?=\S)/u, '$1. ');
