import { DECISIONS } from '../judgement/decisions.js';
import { FINDINGS } from '../judgement/findings/register.js';
import type { FindingDefinition } from '../judgement/findings/finding.js';

const section = ({ id, title, about, reads, follows }: FindingDefinition): string =>
  [
    `## ${title}`,
    `\`${id}\``,
    about,
    `Reads: ${reads}`,
    ...(follows.length > 0
      ? [`Follows: ${follows.map((c) => `${c.designation} (${c.edition})${c.part ? `, ${c.part}` : ''}`).join('; ')}.`]
      : []),
  ].join('\n\n');

/** The page of what several things on record mean together, from the definitions. */
export const findingsPage = (): string =>
  [
    '# What is found',
    'What several things on record mean together: made from the definitions in `core/src/judgement/findings` by `npm run method-pages`; a test holds it current. Each is found in this order, and may read those before it.',
    ...FINDINGS.map(section),
    '## What may be decided',
    Object.entries(DECISIONS)
      .map(([id, { label }]) => `- \`${id}\`: ${label}`)
      .join('\n'),
    'Keen Mortar decides nothing: it keeps who decided what, why, and by which paper.',
  ].join('\n\n') + '\n';
