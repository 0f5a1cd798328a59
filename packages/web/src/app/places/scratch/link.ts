import { spell, unspell, type AnyInputs, type AnyMethod, type Shape, type Spelled, type System } from '@keen-mortar/core';

/** What a link holds besides the method: readings in the fragment, which is never sent to a server. */
export interface Linked {
  readonly variant: string;
  readonly system: System;
  readonly inputs: AnyInputs;
}

/** Longer than this, a link is of no use to anybody: a copy as JSON or CSV is. */
export const LONGEST_LINK = 30_000;

/** The fragment for a computation, or null when it would be too long. */
export function fragmentOf(m: AnyMethod, { variant, system, inputs }: Linked): string | null {
  const readings = JSON.stringify(spell(m.fields as Shape, inputs));
  const fragment = new URLSearchParams({ variant, system, readings }).toString();
  return fragment.length > LONGEST_LINK ? null : fragment;
}

/** What a fragment says; null for one that cannot be read. What it leaves out falls to the first variant and SI. */
export function linkedIn(m: AnyMethod, fragment: string | null): Linked | null {
  if (!fragment) return null;
  const said = new URLSearchParams(fragment);
  const variants = Object.keys(m.variants as object);
  const variant = said.get('variant') ?? variants[0]!;
  const inputs = readingsIn(m, said.get('readings') ?? '{}');
  if (!variants.includes(variant) || inputs === null) return null;
  return { variant, system: said.get('system') === 'us' ? 'us' : 'si', inputs };
}

function readingsIn(m: AnyMethod, text: string): AnyInputs | null {
  try {
    const spelled = JSON.parse(text) as unknown;
    return typeof spelled === 'object' && spelled !== null && !Array.isArray(spelled)
      ? unspell(m.fields as Shape, spelled as Spelled)
      : null;
  } catch {
    return null;
  }
}
