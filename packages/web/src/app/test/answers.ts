import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { answerTexts, fieldAt, guidance, unitLabel, type Field, withinSentence } from '@keen-mortar/core';
import { ToldList } from './told';
import { momentText } from '../parts/when';
import { ComputationStore } from './computation.store';

/** So many figures of a series are read at a glance; the rest is in the copies. */
const MOST_SHOWN = 12;

interface Line {
  readonly id: string;
  readonly label: string;
  readonly text: string;
  readonly unit: string;
  readonly words: boolean;
}

/** What comes of the readings, live: the main results large, then the others, what is missing, what is wrong with it, and what to do next. */
@Component({
  selector: 'km-answers',
  imports: [ToldList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="main" role="status" [class.none]="main().length === 0">
      @for (r of main(); track r.id) {
        <p [attr.data-result]="r.id">
          <span class="what">{{ r.label }}</span>
          <b [class.fig]="!r.words" [class.words]="r.words" [class.long]="main().length > 2 || r.text.length > 9">{{ r.text }}</b>
          <span class="soft">{{ r.unit }}</span>
        </p>
      } @empty {
        @if (missing()) {
          <p class="soft">The answer stands here as soon as it can be had.</p>
        }
      }
    </div>
    @if (refused(); as r) {
      <p class="needs" data-testid="refused">{{ r }}</p>
    }
    @if (missing(); as m) {
      <p class="soft" data-testid="missing">{{ m }}</p>
    }
    <km-told [told]="told()" />
    @if (others().length > 0) {
      <dl class="figures">
        @for (r of others(); track r.id) {
          <div [attr.data-result]="r.id">
            <dt>{{ r.label }}</dt>
            <dd [class.fig]="!r.words">{{ r.text }} {{ r.unit }}</dd>
          </div>
        }
      </dl>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    :host > * {
      margin-inline: 20px;
    }
    .main {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 40px;
      margin: 0;
      padding: 12px 20px;
      /* An answer, not a verdict: nothing here has a limit of its own. */
      background: var(--deep-wash);
      border-bottom: 1px solid var(--hair);
    }
    .main.none {
      background: var(--void-wash);
    }
    .main.none:empty {
      display: none;
    }
    .main p {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 10px;
    }
    .what {
      flex: 1 0 100%;
      font-size: 15px;
    }
    .main b {
      font-size: 46px;
      font-weight: 700;
      line-height: 1.1;
      letter-spacing: -0.03em;
      overflow-wrap: anywhere;
    }
    .main b.long {
      font-size: 30px;
    }
    .main b.words {
      font-size: 24px;
      letter-spacing: 0;
    }
    @media (max-width: 640px) {
      :host > * {
        margin-inline: 12px;
      }
      .main {
        margin: 0;
        padding-inline: 12px;
      }
      .main b {
        font-size: 34px;
      }
    }
  `,
})
export class Answers {
  private readonly store = inject(ComputationStore);

  private readonly lines = computed((): (Line & { main: boolean })[] => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e) return [];
    return e.results.flatMap((r) => {
      const field = m.results[r.id]!;
      // What belongs to rows stands beside them.
      if (field.drawn) return [];
      if (field.along !== undefined && (r.series?.length ?? r.words?.length ?? 0) > 1) return [];
      const texts = answerTexts(field, r, momentText);
      if (texts.length === 0) return [];
      const rest = texts.length > MOST_SHOWN ? ` … ${texts.length} in all` : '';
      const text = texts.slice(0, MOST_SHOWN).join(r.words ? '; ' : ', ') + rest;
      return [{ id: r.id, label: field.label, text, unit: unitLabel(r.unit), words: r.words !== undefined, main: field.main === true }];
    });
  });
  /** Of a test that is void no figure stands large: what is given of it only says why. */
  private readonly isVoid = computed(() => this.store.evaluation()?.validity.state === 'void');
  protected readonly main = computed((): readonly Line[] =>
    this.isVoid() ? [{ id: 'void', label: 'This test is', text: 'void', unit: '', words: true }] : this.lines().filter((l) => l.main),
  );
  protected readonly others = computed(() => (this.isVoid() ? this.lines() : this.lines().filter((l) => !l.main)));

  /** Why there is no result although nothing is missing: what is wrong is said at the field. */
  protected readonly refused = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e || this.lines().some((l) => l.main)) return null;
    const paths = e.issues.filter((i) => i.severity === 'impossible').map((i) => withinSentence(fieldAt(m, i.path)?.label ?? i.path));
    return paths.length === 0 ? null : `No result: look at ${[...new Set(paths)].slice(0, 3).join(', ')}.`;
  });

  protected readonly missing = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    if (!m || !e || e.missing.length === 0) return null;
    const names = e.missing.slice(0, 6).map((path) => {
      const row = /\.(\d+)\./.exec(path)?.[1];
      const field: Field | undefined = fieldAt(m, path);
      return `${withinSentence(field?.label ?? path)}${row === undefined ? '' : ` in row ${Number(row) + 1}`}`;
    });
    const more = e.missing.length > 6 ? ` and ${e.missing.length - 6} more` : '';
    return `Still needed: ${names.join(', ')}${more}.`;
  });

  /** What is wrong with a reading is said at its field; what is wrong with the whole, and what is worth knowing, here. */
  protected readonly told = computed(() => {
    const [m, e] = [this.store.method(), this.store.evaluation()];
    return m && e ? guidance(m, e).filter((t) => t.path === undefined || fieldAt(m, t.path) === undefined) : [];
  });
}
