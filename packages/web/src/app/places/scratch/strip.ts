import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { answerText } from '@keen-mortar/core';
import { momentText } from '../../parts/when';
import { ComputationStore } from '../../test/computation.store';

/** On a narrow screen the answer stays in sight while the readings are keyed. What it says is said aloud where the answers stand. */
@Component({
  selector: 'km-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (text(); as t) {
      <p aria-hidden="true">{{ t }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      position: sticky;
      top: 0;
      z-index: 2;
    }
    p {
      margin: 0 0 10px;
      padding: 8px 20px;
      background: var(--deep-wash);
      border-block: 1px solid var(--rule);
      font-weight: 700;
      overflow-wrap: anywhere;
    }
    @container (min-width: 820px) {
      :host {
        display: none;
      }
    }
    @media (max-width: 640px) {
      p {
        padding-inline: 12px;
      }
    }
  `,
})
export class Strip {
  private readonly store = inject(ComputationStore);
  protected readonly text = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e) return '';
    const results = m.results;
    const main = e.results.filter((r) => results[r.id]!.main && results[r.id]!.along === undefined);
    return main
      .map((r) => ({ label: r.label, text: answerText(results[r.id]!, r, momentText) }))
      .filter(({ text }) => text !== '')
      .map(({ label, text }) => `${label} ${text}`)
      .join(' · ');
  });
}
