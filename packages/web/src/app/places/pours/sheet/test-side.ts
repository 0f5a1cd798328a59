import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Sample } from '@keen-mortar/contract';
import {
  askedAs,
  nextStep,
  say,
  SIGN_WORDS,
  guidance,
  methodById,
  stepsFor,
  unitLabel,
  type Diagnosis,
  type Sign,
} from '@keen-mortar/core';
import { ToldList } from '../../../test/told';
import { Working } from '../../../test/working';
import { WaterGauge } from './water-gauge';
import { othersOf, toldOf, wholeOfSheet, type Row } from './sheet.view';

/** Beside the test, not behind a dialog: water on site, what does not fit together, working, other variants, steps and cautions. */
@Component({
  selector: 'km-test-side',
  imports: [Working, ToldList, WaterGauge],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (water(); as w) {
      <section data-testid="water">
        <h3>Water on site</h3>
        <km-water-gauge [evaluation]="w.evaluation" />
        <km-told [told]="w.told" />
      </section>
    }
    @if (truck().length > 0) {
      <section data-testid="truck">
        <h3>Time in the truck</h3>
        <km-told [told]="truck()" />
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
    @for (check of checks(); track check.says) {
      <section data-testid="seen">
        <h3>Seen so far</h3>
        <p class="needs">{{ check.says }}</p>
        <p>{{ check.next }}</p>
        @if (check.causes.length > 0) {
          <ol>
            @for (cause of check.causes; track cause) {
              <li>{{ cause }}</li>
            }
          </ol>
        }
      </section>
    }
    @if (diagnoses().length > 0) {
      <section data-testid="diagnosis">
        <h3>Likely causes</h3>
        @for (d of diagnoses(); track d.likely) {
          <p>
            <b>{{ d.likely }}.</b> {{ d.evidence }}
          </p>
          <p class="soft">Ask for: {{ d.ask }}.</p>
        }
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
  private readonly whole = computed(() => wholeOfSheet(this.sample(), this.rows(), this.minute()));

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
  protected readonly checks = computed(() =>
    (this.whole()?.checks ?? []).map((check) => ({
      says: say(check.code, check.params),
      next: nextStep(check.code, check.params) ?? '',
      causes: check.causes.map((cause) => say(cause.code, cause.params)),
    })),
  );
  protected readonly diagnoses = computed(() =>
    (this.whole()?.diagnoses ?? []).map((d) => ({ likely: d.likely, ask: d.ask, evidence: evidenceOf(d) })),
  );
  /** Asked for by a slump that is too low: how much, until when, or why not. */
  protected readonly water = computed(() => {
    const e = this.whole()?.water;
    return e && this.row().method.results['slump'] ? { evaluation: e, told: guidance(methodById(e.method)!, e) } : null;
  });
  protected readonly truck = computed(() => {
    const t = this.whole()?.truck;
    return t ? guidance(methodById(t.evaluation.method)!, t.evaluation, t.judged) : [];
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

/** What speaks for a cause, what against it, and what is not known: so that nobody takes it for a verdict. */
function evidenceOf(d: Diagnosis): string {
  const words = (signs: readonly Sign[]): string => signs.map((sign) => SIGN_WORDS[sign]).join(', ');
  const said = d.supports.map((sign) => `${SIGN_WORDS[sign]} ${d.signs[sign] ?? ''}`.trim()).join(', ');
  const against = d.against.length > 0 ? ` Against it: ${words(d.against)}.` : '';
  const unknown = d.unknown.length > 0 ? ` Not known: ${words(d.unknown)}.` : '';
  return `${said.replace(/^[a-z]/, (c) => c.toUpperCase())}.${against}${unknown}`;
}
