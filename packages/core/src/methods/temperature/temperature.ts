import { brief, exact } from '../../numbers/exact.js';
import { method, qty, type Citation, type Increments } from '../definition.js';

const C1064: Citation = { designation: 'ASTM C1064/C1064M', edition: '2023' };

type TemperatureParams = { increments: Increments; leastMinutes: string };

export const temperature = method({
  id: 'temperature',
  on: ['sample', 'trial-batch'],
  title: 'Temperature',
  names: ['temperature', 'concrete temperature', 'fresh temperature', 'thermometer'],
  follows: [C1064],
  about: 'Temperature of the fresh concrete, with 75 mm (3 in) of it all round the sensor.',
  fields: {
    temperature: qty(
      'temperature',
      'T',
      'Temperature',
      { si: 'C', us: 'F' },
      {
        possible: { unit: 'C', above: '-5', most: '100' },
        plausible: { unit: 'C', least: '4', most: '41' },
        typical: { text: '20', unit: 'C' },
      },
    ),
    inPlace: qty(
      'time',
      't',
      'Sensor in for',
      { si: 'min', us: 'min' },
      {
        optional: true,
        minor: true,
        possible: { unit: 'min', least: '0', most: '120' },
      },
    ),
  },
  results: {
    temperature: {
      label: 'Temperature',
      symbol: 'T',
      units: { si: 'C', us: 'F' },
      property: 'temperature',
      precision: 'temperature',
      main: true,
    },
  },
  variants: {
    c1064: {
      label: 'to 0.5 °C or 1 °F',
      source: C1064,
      params: { increments: { C: '0.5', F: '1' }, leastMinutes: '2' } satisfies TemperatureParams as TemperatureParams,
    },
  },
  hints: (p) => ({ inPlace: `at least ${p.leastMinutes} min, and until steady` }),
  steps: [
    { text: 'Cover the sensor by 75 mm (3 in) of concrete all round and close it in gently.' },
    { text: (p) => `At least ${p.leastMinutes} min and until the reading is steady; read within 5 min of the final portion.` },
    { text: 'Wipe the sensor at once. Gloves: fresh paste burns skin.', caution: true },
  ],
  kit: 'thermometer',
  work: { on: 'fresh', order: 1 },
  windows: [
    {
      id: 'temperature-within-5',
      starts: 'sample.final-portion',
      must: 'test.finished',
      mostSeconds: 300,
      missed: 'marked',
      label: 'Temperature read',
      done: 'Temperature read',
      then: 'after that the result carries a remark',
      source: C1064,
    },
  ],
  advice: [
    {
      result: 'temperature',
      side: 'high',
      steps: [
        'Read again with a second thermometer.',
        'Above the limit: tell whoever may reject the load; ask the plant for cooled water or ice.',
      ],
      bothOut: ['Tell whoever may reject the load; ask the plant for cooled water or ice.'],
      levers: ['Shade, ice in the mixing water, night pours', 'Hot concrete loses slump and sets early'],
    },
    {
      result: 'temperature',
      side: 'low',
      steps: [
        'Read again with a second thermometer.',
        'Below the limit: tell whoever may reject the load; ask the plant for heated water.',
      ],
      bothOut: ['Tell whoever may reject the load; ask the plant for heated water.'],
      levers: ['Heated water, insulated forms', 'Cold concrete gains strength late and may freeze'],
    },
  ],
  example: { temperature: '19.6 C', inPlace: '3 min' },
  run(r) {
    const { c, p, system } = r;
    const unit = system === 'us' ? 'F' : 'C';
    const inPlace = r.have('inPlace', 'min');
    if (inPlace !== null && c.value(inPlace).compare(exact(p.leastMinutes)) < 0) {
      r.marks('not-steady', { least: p.leastMinutes, got: `${brief(c.value(inPlace), 3, exact(p.leastMinutes))} min` });
    }
    const temperature = r.need('temperature', unit);
    if (temperature !== null) r.result('temperature', temperature, unit, p.increments);
  },
});
