import { asks, type AnyInputs, type AnyMethod, type Field, type Keyed, type Shape } from '@keen-mortar/core';

type Node = Readonly<Record<string, unknown>> | readonly unknown[] | null | undefined;

/** The inputs with `value` at a path such as `sieves.3.retained`; rows and objects on the way are made as needed. */
export function setAt(inputs: AnyInputs, path: string, value: unknown): AnyInputs {
  return put(inputs as Node, path.split('.'), value) as AnyInputs;
}

function put(node: Node, [head, ...rest]: readonly string[], value: unknown): unknown {
  if (head === undefined) return value;
  const row = /^\d+$/.test(head);
  const child = (node as Readonly<Record<string, Node>> | null | undefined)?.[head];
  const next = put(child, rest, value);
  if (row) {
    const copy = [...((node as readonly unknown[] | null | undefined) ?? [])];
    // A row keyed below the last one: those between are there, and empty.
    while (copy.length < Number(head)) copy.push({});
    copy[Number(head)] = next;
    return copy;
  }
  return { ...(node as object | null | undefined), [head]: next };
}

/** What is at a path; null where nothing is. */
export const valueAt = (inputs: AnyInputs, path: string): unknown =>
  path.split('.').reduce<unknown>((node, key) => (node as Readonly<Record<string, unknown>> | null | undefined)?.[key], inputs) ?? null;

export const keyedAt = (inputs: AnyInputs, path: string): Keyed | null => valueAt(inputs, path) as Keyed | null;

export const rowsAt = (inputs: AnyInputs, path: string): readonly AnyInputs[] => (valueAt(inputs, path) as AnyInputs[] | null) ?? [];

export const withoutRow = (inputs: AnyInputs, path: string, index: number): AnyInputs =>
  setAt(
    inputs,
    path,
    rowsAt(inputs, path).filter((_row, i) => i !== index),
  );

/** Whether anything was keyed at all. */
export function isBlank(value: unknown): boolean {
  if (value === null || value === undefined) return true;
  if (typeof value === 'string') return value.trim() === '';
  if (Array.isArray(value)) return value.every(isBlank);
  if (typeof value !== 'object') return false;
  return 'text' in value ? (value as Keyed).text.trim() === '' : Object.values(value).every(isBlank);
}

/** The fields that this variant asks for. */
export const asked = (m: AnyMethod, variant: string): [string, Field][] =>
  Object.entries(m.fields as Shape).filter(([id]) => asks(m, variant, id));

/** The one quantity of a row that holds nothing else: such rows are a plain list, and rows of them a grid. */
export const single = (field: Field): [string, Field] | null => {
  if (field.kind !== 'rows') return null;
  const entries = Object.entries(field.of as Shape);
  return entries.length === 1 ? entries[0]! : null;
};

/** Whether a rows field is a grid: each of its rows is nothing but a list of one quantity. */
export const isGrid = (field: Field): boolean => {
  const inner = single(field);
  return inner !== null && inner[1].kind === 'rows' && single(inner[1])?.[1].kind === 'qty';
};
