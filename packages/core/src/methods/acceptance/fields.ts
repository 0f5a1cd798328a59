import type { System } from '../../units/units.js';
import { qty } from '../definition.js';

/** Up to and including this specified strength a test may fall short by an amount, above it by a share (ACI 318, ACI 301). */
export const SHORT_BY: { readonly upTo: Record<System, string>; readonly shortBy: Record<System, string> } = {
  upTo: { us: '5000', si: '35' },
  shortBy: { us: '500', si: '3.5' },
};

/** Tests of a series in one request; the page takes any length. */
export const LONG_SERIES = 3000;

export const DECIDES = { text: 'Results support, and never replace, the engineer’s decision.' } as const;

export const strength = (symbol: string, label: string) =>
  qty(
    'stress',
    symbol,
    label,
    { si: 'MPa', us: 'psi' },
    {
      possible: { unit: 'MPa', above: '0', most: '300' },
      plausible: { unit: 'MPa', least: '3', most: '150' },
      typical: { text: '35', unit: 'MPa' },
    },
  );

export const stressUnit = (system: System): 'MPa' | 'psi' => (system === 'us' ? 'psi' : 'MPa');
