import { method, type AnyMethod, type QtyField, type Shape, type Source } from '../methods/definition.js';
import { METHODS } from '../methods/register.js';
import { CALIBRATION, KIT_KINDS, KIT_VALUES, type KitKind } from './kit.js';

/** A quantity of an instrument, as the methods that take it define it. */
export function kitField(source: Source): QtyField {
  for (const m of METHODS)
    for (const field of Object.values(m.fields as Shape)) if (field.kind === 'qty' && field.from === source) return without(field);
  throw new Error(`no method takes ${source}`);
}

const without = ({ from: _from, optional: _optional, minor: _minor, ...field }: QtyField): QtyField => field;

/** The place of a quantity in a form of its kind: `nominal` of `measure.nominal`. */
export const kitFieldId = (source: Source): string => source.slice(source.indexOf('.') + 1);

const FORMS = Object.fromEntries(
  KIT_KINDS.map((kind) => {
    const fields: Shape = Object.fromEntries(KIT_VALUES[kind].own.map((source) => [kitFieldId(source), kitField(source)]));
    const m = method({
      id: `kit-${kind}`,
      title: CALIBRATION[kind].label,
      names: [],
      follows: [],
      about: '',
      fields,
      results: {},
      variants: { kit: { label: '', source: { designation: '', edition: '' }, params: {} } },
      steps: [],
      example: {},
      run(r) {
        for (const id of Object.keys(fields)) if (!(r.x as Readonly<Record<string, unknown>>)[id]) r.missing(id);
      },
    });
    return [kind, m];
  }),
) as unknown as Readonly<Record<KitKind, AnyMethod>>;

/** What an instrument of a kind has of its own, as a definition: its form and its faults are those of a test. */
export const kitForm = (kind: KitKind): AnyMethod => FORMS[kind];
