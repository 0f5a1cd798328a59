import { KIT_KINDS, unitNamed, type KitKind, type UnitId } from '@keen-mortar/core';

/** What an instrument says in a line; docs/instruments.md describes it. */
export type Said =
  | { readonly is: 'hello'; readonly kind: KitKind; readonly id: string; readonly name: string }
  | { readonly is: 'can'; readonly words: readonly string[] }
  | {
      readonly is: 'read';
      readonly text: string | null;
      readonly unit: UnitId | null;
      readonly state: 'stable' | 'moving' | 'fault';
      readonly says: string | null;
    }
  | { readonly is: 'point'; readonly time: string; readonly load: string; readonly unit: UnitId }
  | { readonly is: 'answer'; readonly ok: boolean; readonly says: string };

/** A longer line is none: whoever sends it is cut off. */
export const LONGEST_LINE = 200;

const HELLO = /^HELLO (\S+) ([a-z0-9-]{1,20}) (\S.{0,119})$/;
const READ = /^READ (-?\d{1,7}(?:\.\d{1,6})?|-) (\S{1,10}) (STABLE|MOVING|FAULT)(?: (.{1,120}))?$/;

/** Null for a line that is not of the protocol. */
export function parseLine(line: string): Said | null {
  const hello = HELLO.exec(line);
  if (hello) {
    const [, kind, id, name] = hello as unknown as [string, KitKind, string, string];
    return (KIT_KINDS as readonly string[]).includes(kind) ? { is: 'hello', kind, id, name } : null;
  }
  if (line.startsWith('CAN '))
    return {
      is: 'can',
      words: line
        .slice(4)
        .split(' ')
        .filter((w) => /^[A-Z]{2,12}$/.test(w)),
    };
  const read = READ.exec(line);
  if (read) {
    const [, text, unit, state, says] = read as unknown as [string, string, string, string, string | undefined];
    const known = text === '-' ? null : unitNamed(unit);
    if (text !== '-' && known === null) return null;
    return {
      is: 'read',
      text: text === '-' ? null : text,
      unit: known,
      state: state.toLowerCase() as 'stable',
      says: says ?? null,
    };
  }
  const point = /^POINT (\d{1,5}(?:\.\d{1,3})?) (\d{1,7}(?:\.\d{1,6})?) (\S{1,10})$/.exec(line);
  if (point) {
    const [, time, load, unit] = point as unknown as [string, string, string, string];
    const known = unitNamed(unit);
    return known === null ? null : { is: 'point', time, load, unit: known };
  }
  const answer = /^(OK|NO) (.{1,120})$/.exec(line);
  return answer ? { is: 'answer', ok: answer[1] === 'OK', says: answer[2]! } : null;
}
