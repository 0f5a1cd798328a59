import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import { askedAs, BESIDE, findingById, isTold, speaksOf, stepsFor, unitLabel, waterFor } from '@keen-mortar/core';
import { Findings, type ShownFinding } from '../../../parts/findings';
import { shownFinding } from '../../../parts/shown-finding';
import { ToldList } from '../../../test/told';
import { Working } from '../../../test/working';
import { WaterGauge } from './water-gauge';
import { findingsOfSheet, lineOfSheet } from './line';
import { othersOf, toldOf, type Row } from './sheet.view';

/** Beside the test, not behind a dialog: water on site, what does not fit together, working, other variants, steps and cautions. */
@Component({
  selector: 'km-test-side',
  imports: [Working, ToldList, WaterGauge, Findings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (water(); as w) {
      <section data-testid="water">
        <h3>Water in the load</h3>
        <km-water-gauge [evaluation]="w" />
      </section>
    }
    @for (t of together(); track t.head) {
      <section [attr.data-testid]="t.id">
        <h3>{{ t.head }}</h3>
        <km-findings [findings]="t.findings" />
      </section>
    }
    <section>
      <h3>Working</h3>
      <km-working [evaluation]="row().evaluation" [verdicts]="row().verdicts" />
    </section>
    @if (others().length > 0) {
      <section>
        <h3>Other variants, same readings</h3>
        <dl class="figures">
          @for (o of others(); track o.label) {
            <div>
              <dt>{{ o.label }}</dt>
              <dd [class.fig]="o.given" [class.soft]="!o.given">{{ o.value }}</dd>
            </div>
          }
        </dl>
      </section>
    }
    @if (notes().length > 0) {
      <section>
        <h3>Notes</h3>
        <km-told [told]="notes()" />
      </section>
    }
    <section>
      <h3>How</h3>
      <ol>
        @for (s of steps(); track s.text) {
          <li [class.caution]="s.caution">{{ s.text }}</li>
        }
      </ol>
      <p class="soft small">{{ follows() }}</p>
    </section>
    <p class="soft small foot">Supports, never replaces, the project specification and the engineer's decision.</p>
  `,
  styles: `
    :host {
      display: grid;
      align-content: start;
      gap: 13px;
      padding: 16px 20px;
      font-size: 14.5px;
      min-width: 0;
    }
    section {
      display: grid;
      gap: 5px;
    }
    section + section {
      border-top: 1px solid var(--hair);
      padding-top: 11px;
    }
    h3 {
      font-size: 14.5px;
    }
    ol {
      display: grid;
      gap: 6px;
    }
    .caution {
      font-weight: 700;
      border-left: 4px solid var(--now);
      padding-left: 9px;
    }
  `,
})
export class TestSide {
  readonly row = input.required<Row>();
  /** All tests of the sheet. */
  readonly rows = input.required<readonly Row[]>();
  readonly sample = input.required<Sample>();
  readonly now = input.required<number>();
  /** Made anew each minute: what hangs on the clock moves no faster. */
  private readonly minute = computed(() => Math.floor(this.now() / 60_000) * 60_000);
  private readonly found = computed(() => findingsOfSheet(this.sample(), this.rows()));

  protected readonly others = computed(() =>
    othersOf(this.sample(), this.row()).map(({ label, evaluation, needs: otherwise }) => {
      const main = Object.entries(this.row().method.results as Readonly<Record<string, { main?: boolean }>>).filter(([, f]) => f.main);
      const values = main.flatMap(([id]) => {
        const r = evaluation.results.find((result) => result.id === id);
        return r?.reported ? [`${r.reported} ${unitLabel(r.unit)}`.trim()] : [];
      });
      const first = evaluation.missing[0];
      const needs = otherwise ? `needs ${otherwise}` : first === undefined ? '' : `needs ${askedAs(this.row().method, first)}`;
      return { label, given: values.length > 0, value: evaluation.validity.state === 'void' ? 'void' : values.join(' · ') || needs || '–' };
    }),
  );
  /** Asked for by a slump that is too low: how much, until when, or why not. */
  protected readonly water = computed(() => {
    const line = lineOfSheet(this.sample(), this.rows());
    const [load] = line.items;
    const asked = this.found().some((f) => f.finding === 'water-on-site' && f.part === 'may');
    return asked && load && this.row().method.results['slump'] ? waterFor(line, load, 'low', this.minute()) : null;
  });
  /** What several things mean together, in the order in which somebody looks: the load, this test with its others, what does not fit. */
  protected readonly together = computed(() => {
    const own = (f: ShownFinding): boolean => speaksOf(f, this.row().method.id);
    const here = this.found().flatMap((f) => (findingById(f.finding)?.ofRecord ? [] : [shownFinding(f, this.minute())]));
    const all = [...here, ...this.sample().findings.filter((f) => findingById(f.finding)?.ofRecord)].filter((f) => isTold(f) && own(f));
    return Object.entries(BESIDE)
      .map(([id, head]) => ({ id, head, findings: all.filter((f) => findingById(f.finding)?.beside === id) }))
      .filter(({ findings }) => findings.length > 0);
  });
  protected readonly notes = computed(() => toldOf(this.row()).filter((t) => t.kind === 'note' || t.code === 'edge'));
  /** Cautions first: they are read before the hands are in it. */
  protected readonly steps = computed(() =>
    stepsFor(this.row().method, this.row().evaluation.params).sort((a, b) => Number(b.caution) - Number(a.caution)),
  );
  protected readonly follows = computed(() => {
    const variant = this.row().method.variants[this.row().evaluation.variant];
    return variant ? `${variant.source.designation}, edition ${variant.source.edition}` : '';
  });
}
