import type { Band } from '@keen-mortar/core';
import { axis, type Drawing } from '../../ui/chart';

interface Curve {
  readonly points: readonly { readonly x: number; readonly y: number }[];
  /** The one that is judged, rather than one that goes into it. */
  readonly strong: boolean;
}

/** Shares passing against the opening, with the band they have to lie in. */
export function gradingDrawing(curves: readonly Curve[], of: Band): Drawing {
  const band = of.map((row) => ({ x: Number(row.opening), least: Number(row.least), most: Number(row.most) }));
  const ticks = [...new Set([...curves.flatMap((curve) => curve.points), ...band].map(({ x }) => x))].sort((a, b) => a - b);
  return (inks) => ({
    type: 'line',
    data: {
      // The first lies on top: the curves over their band.
      datasets: [
        ...curves.map(({ points, strong }) => ({
          data: [...points],
          borderColor: strong ? inks.ink : inks.soft,
          backgroundColor: strong ? inks.ink : inks.soft,
          borderWidth: strong ? 2 : 1,
          pointRadius: strong ? 4 : 2,
        })),
        {
          data: band.map(({ x, most }) => ({ x, y: most })),
          borderColor: inks.within,
          borderWidth: 1.5,
          pointRadius: 0,
          fill: '+1',
          backgroundColor: inks.zone,
        },
        { data: band.map(({ x, least }) => ({ x, y: least })), borderColor: inks.within, borderWidth: 1.5, pointRadius: 0 },
      ],
    },
    options: {
      scales: {
        x: axis('Opening, mm (logarithmic)', {
          ...(ticks.length > 0 ? { min: ticks[0]! * 0.85, max: ticks.at(-1)! * 1.15 } : {}),
          type: 'logarithmic',
          afterBuildTicks: (scale: { ticks: { value: number }[] }) => {
            if (ticks.length > 0) scale.ticks = ticks.map((value) => ({ value }));
          },
          ticks: { callback: (value: number) => String(value), maxRotation: 60, autoSkip: false },
        }),
        y: axis('Passing, %', { min: 0, max: 100 }),
      },
    },
  });
}
