import { ButtonDirective } from 'primeng/button';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { againstBand, bandOf, evaluate, methodById, say, STACKS, type AnyInputs, type PickField, type RowsField } from '@keen-mortar/core';
import { Choice } from '../../ui/choice';
import { axis, ChartBox, type Drawing } from '../../ui/chart';
import { isBlank, rowsAt, setAt } from '../form/inputs';
import { ComputationStore } from '../computation.store';
import { columnOf, pairsOf, seriesOf, wordsOf, fieldOf } from '../drawn';

/** Passing against opening, with the band it has to lie in. */
@Component({
  selector: 'km-sieves',
  imports: [ChartBox, ButtonDirective, Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (untouched()) {
      <p class="stacks">
        <span class="soft">Usual sieves:</span>
        @for (s of stacks; track s[0]) {
          <button type="button" pButton [text]="true" class="link" [attr.data-stack]="s[0]" (click)="stack(s[1].openings)">
            {{ s[1].label }}
          </button>
        }
      </p>
    }
    <div class="pick">
      <span>Band</span>
      <km-choice label="Band" data-testid="band" [options]="bandChoices" [value]="band$()" (chosen)="band$.set($event)" />
      <b data-testid="against" [class.out]="against()?.out">{{ against()?.says }}</b>
    </div>
    @for (n of against()?.notes ?? []; track n) {
      <p class="soft small">{{ n }}</p>
    }
    <km-chart [drawing]="drawing()" [says]="says()" [height]="290" />
  `,
  styleUrl: './panel.css',
})
export class Sieves {
  private readonly store = inject(ComputationStore);
  private readonly method = methodById('grading-band')!;
  protected readonly bandChoices = [
    { id: '', label: 'none' },
    ...Object.entries((this.method.fields as { band: PickField }).band.options as Record<string, string>).map(([id, label]) => ({
      id,
      label,
    })),
  ];
  protected readonly band$ = signal('');
  protected readonly stacks = Object.entries(STACKS);
  /** Once an opening or a mass is keyed, the stack is the technician's own. */
  protected readonly untouched = computed(() => isBlank(rowsAt(this.store.inputs(), 'sieves') as unknown));

  protected stack(openings: readonly string[]): void {
    const rows = [...openings, 'Pan'].map((text) => ({ opening: { text, unit: 'mm' } })) as unknown as AnyInputs[];
    this.store.fill(setAt(this.store.inputs(), 'sieves', rows), 'The usual sieves are filled in: key the masses.');
  }

  private readonly openings = computed(() =>
    columnOf(this.store.still(), 'sieves', fieldOf<RowsField>(this.store.method(), 'sieves'), 'opening', 'mm'),
  );
  private readonly passing = computed(() => seriesOf(this.store.working(), 'passing'));

  protected readonly against = computed(() => {
    const e = this.store.working();
    const inputs = e && this.band$() !== '' ? againstBand(this.store.still(), e, this.band$()) : null;
    if (!inputs) return null;
    const judged = evaluate(this.method, inputs, { variant: 'c33', system: 'si' });
    const [above, below] = [wordsOf(judged, 'above'), wordsOf(judged, 'below')];
    const sides = [above.length > 0 ? `above at ${above.join(', ')} mm` : '', below.length > 0 ? `below at ${below.join(', ')} mm` : ''];
    const inside = wordsOf(judged, 'inside')[0];
    if (inside === undefined) return null;
    const out = inside === 'no';
    return {
      out,
      says: out ? `outside the band${sides.some(Boolean) ? `: ${sides.filter(Boolean).join('; ')}` : ''}` : 'within the band',
      notes: judged.notes.map((n) => say(n.code, n.params)),
    };
  });

  protected readonly says = computed(
    () =>
      `Per cent passing against opening: ${wordsOf(this.store.working(), 'reported')
        .map((text, i) => `${this.openings()[i]} mm ${text} %`)
        .join(', ')}`,
  );

  protected readonly drawing = computed((): Drawing => {
    const points = pairsOf(this.openings(), this.passing());
    const band = bandOf(this.band$()).map((row) => ({ x: Number(row.opening), least: Number(row.least), most: Number(row.most) }));
    const ticks = [...new Set([...points, ...band].map(({ x }) => x))].sort((a, b) => a - b);
    return (inks) => ({
      type: 'line',
      data: {
        // The first lies on top: the curve over its band.
        datasets: [
          { data: points, borderColor: inks.ink, backgroundColor: inks.ink, borderWidth: 2, pointRadius: 4 },
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
  });
}
