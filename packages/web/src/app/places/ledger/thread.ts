import { Findings } from '../../parts/findings';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { reportCode, type LedgerRow, type Reading, type Report, type Test, type TestTurn } from '@keen-mortar/contract';
import {
  causeWords,
  fieldAt,
  keyedText,
  methodById,
  pictureOf,
  unitLabel,
  type Field,
  type ResultField,
  type Shape,
  type Verdict,
} from '@keen-mortar/core';
import { Store } from '@ngrx/store';
import { ButtonDirective } from 'primeng/button';
import { longDay, today, zonedTime } from '../../parts/when';
import { nameOf, project } from '../../state/session';
import { SpecBand } from '../../test/spec-band';
import { ToldList } from '../../test/told';
import { Working } from '../../test/working';
import { Pictogram } from '../../ui/pictogram';
import { VERDICT_WORDS, VerdictShape } from '../../ui/verdict-shape';

/** So many readings are listed one by one; a table’s are on its sheet. */
const MOST_READINGS = 24;

interface ReadLine {
  readonly label: string;
  readonly says: string;
  readonly before: readonly string[];
  readonly reason: string | null;
}

/** One number walked back: what was read, how it was worked out, what came of it, against what, and what it said before. */
@Component({
  selector: 'km-thread',
  imports: [RouterLink, ButtonDirective, Pictogram, SpecBand, ToldList, VerdictShape, Working, Findings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './thread.html',
  styleUrl: './thread.css',
})
export class Thread {
  private readonly state = inject(Store);
  private readonly project = this.state.selectSignal(project);
  protected readonly nameOf = this.state.selectSignal(nameOf);
  readonly row = input.required<LedgerRow>();
  readonly test = input.required<Test>();
  readonly turns = input.required<readonly TestTurn[]>();
  readonly reports = input<readonly Report[]>([]);
  /** Papers that it stands on. */
  protected readonly papers = computed(() =>
    this.reports().map((r) => ({
      id: r.id,
      code: reportCode(r.number),
      title: r.title,
      when: this.moment(r.at),
      gone: r.replacedBy !== null,
    })),
  );
  protected readonly words = VERDICT_WORDS;

  private readonly method = computed(() => methodById(this.test().method)!);
  protected readonly title = computed(() => this.method().title);
  protected readonly picture = computed(() => pictureOf(this.test().method));
  protected readonly variant = computed(() => this.method().variants[this.test().variant]?.label ?? this.test().variant);
  protected readonly source = computed(() => {
    const s = this.method().variants[this.test().variant]?.source;
    return s ? `${s.designation}, ${s.edition}` : '';
  });
  protected readonly when = computed(() => this.moment(this.test().startedAt));
  protected readonly kit = computed(() => {
    const k = this.test().kit;
    return k ? `${k.name}${k.calibratedOn ? `, calibrated ${longDay(k.calibratedOn)}` : ', never calibrated'}` : null;
  });
  protected readonly given = computed(() => this.test().given.from);

  /** What stands of each field, with what it was before. */
  protected readonly readings = computed((): ReadLine[] => {
    const turns = new Map<string, Reading[]>();
    for (const r of this.test().readings) turns.set(r.field, [...(turns.get(r.field) ?? []), r]);
    return [...turns].map(([path, all]) => {
      const last = all.at(-1)!;
      return {
        label: this.label(path),
        says: last.text === null ? 'struck out' : this.figure(path, last),
        before: all.slice(0, -1).map((r) => (r.text === null ? 'struck out' : this.figure(path, r))),
        reason: last.reason,
      };
    });
  });
  protected readonly shown = computed(() => this.readings().slice(0, MOST_READINGS));
  protected readonly left = computed(() => this.readings().length - this.shown().length);

  protected readonly evaluation = computed(() => this.test().kept?.evaluation ?? null);
  /** The result of the row first, then the main ones. */
  protected readonly bands = computed(() => {
    const kept = this.test().kept;
    if (!kept) return [];
    const wanted = this.row().result?.id;
    const fields = this.method().results as Readonly<Record<string, ResultField>>;
    const ids = [...new Set([...(wanted === undefined ? [] : [wanted]), ...Object.keys(fields).filter((id) => fields[id]!.main)])];
    return ids.flatMap((id) => {
      const result = kept.evaluation.results.find((r) => r.id === id);
      if (!result || result.series) return [];
      return kept.judged.flatMap((j): { key: string; result: typeof result; verdict: Verdict; spec: string }[] => {
        const verdict = j.verdicts.find((v) => v.result === id);
        return verdict ? [{ key: `${id} ${j.specification?.id ?? ''}`, result, verdict, spec: j.specification?.name ?? '' }] : [];
      });
    });
  });
  protected readonly verdicts = computed(() => this.test().kept?.judged.flatMap((j) => j.verdicts) ?? []);
  /** What it said before it said what it says now, the newest first. */
  protected readonly before = computed(() => {
    const id = this.row().result?.id;
    return [...this.turns()]
      .slice(0, -1)
      .reverse()
      .map((t) => {
        const found = t.results.find((r) => r.id === id);
        return {
          turn: t.turn,
          says: found?.reported ? `${found.reported} ${unitLabel(found.unit)}` : t.validity === 'void' ? 'void' : 'open',
          state: found?.verdict ?? 'unjudged',
          when: this.moment(t.at),
        };
      });
  });
  protected readonly cause = computed(() => {
    const last = this.turns().at(-1);
    const words = causeWords(last?.cause ?? null);
    if (words === null || !last || last.because.length === 0) return words;
    return last.because.map(({ says, by }) => `${says}, told by ${this.nameOf()(by)}.`).join(' ');
  });
  protected readonly linkToSheet = computed(() =>
    this.row().itemKind === 'sample' ? ['/samples', this.row().itemId] : ['/record', this.row().itemId],
  );

  private label(path: string): string {
    const [top, , column] = path.split('.');
    const field = fieldAt(this.method(), top!);
    if (!field) return path;
    const inner = column === undefined || field.kind !== 'rows' ? undefined : (field.of as Shape)[column];
    return inner ? `${field.label}: ${inner.label}` : field.label;
  }

  private figure(path: string, r: Reading): string {
    if (r.unit !== null) return keyedText(r.text ?? '', r.unit);
    const [top, , column] = path.split('.');
    const field = fieldAt(this.method(), top!);
    const own: Field | undefined = column === undefined || field?.kind !== 'rows' ? field : (field.of as Shape)[column];
    return own?.kind === 'pick'
      ? (own.options[r.text ?? ''] ?? r.text ?? '')
      : own?.kind === 'instant'
        ? this.moment(r.text ?? '')
        : (r.text ?? '');
  }

  private moment(iso: string): string {
    const zone = this.project()?.timezone;
    return `${longDay(today(zone, new Date(iso)))}, ${zonedTime(iso, zone)}`;
  }
}
